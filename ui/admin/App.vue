<script setup lang="ts">
import { onMounted } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import TopBand from './parts/TopBand.vue'
import LostPart from './parts/LostPart.vue'
import { focusHead, unreached } from './router'
import { loadSession, session } from './session'

const route = useRoute()
const router = useRouter()
function skip() {
  void focusHead()
  ;(document.activeElement as HTMLElement | null)?.blur()
}
onMounted(async () => {
  await router.isReady()
  const s = await loadSession()
  if (!s.signedIn && !route.meta.door) await router.replace({ path: '/sign-in', query: { to: route.fullPath } })
})
</script>

<template>
  <div v-if="route.meta.door || session?.signedIn" class="flex min-h-screen flex-col">
    <a v-if="!route.meta.door" href="#content" class="skip" @click.prevent="skip">{{ $t('program.content') }}</a>
    <TopBand v-if="!route.meta.door" />
    <LostPart v-if="unreached" :to="unreached" />
    <RouterView />
  </div>
</template>
