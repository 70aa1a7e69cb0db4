<script setup lang="ts">
import { onMounted } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import TopBand from './parts/TopBand.vue'
import { loadSession, session } from './session'

const route = useRoute()
const router = useRouter()
onMounted(async () => {
  await router.isReady()
  const s = await loadSession()
  if (!s.signedIn && !route.meta.door) await router.replace({ path: '/sign-in', query: { to: route.fullPath } })
})
</script>

<template>
  <div v-if="route.meta.door || session?.signedIn" class="flex min-h-screen flex-col">
    <TopBand v-if="!route.meta.door" />
    <RouterView />
  </div>
</template>
