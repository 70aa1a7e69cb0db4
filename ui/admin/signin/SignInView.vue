<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import mark from '../../shared/mark.svg'
import { api, data, words } from '../api'
import { loadSession, session } from '../session'

const route = useRoute()
const router = useRouter()
const email = ref('')
const password = ref('')
const problem = ref('')
const busy = ref(false)

onMounted(async () => {
  const s = await loadSession()
  if (s.demo) {
    email.value = s.demo.email
    password.value = s.demo.password
  }
})

async function signIn() {
  busy.value = true
  problem.value = ''
  try {
    session.value = await data(api.POST('/api/session', { body: { email: email.value, password: password.value } }))
    const to = typeof route.query.to === 'string' && /^\/(?!\/)/.test(route.query.to) ? route.query.to : '/'
    await router.replace(to)
  } catch (e) {
    problem.value = words(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <main class="mx-auto mt-[12vh] w-full max-w-[400px] px-3">
    <form class="border-t-4 border-ink bg-sheet px-8 py-8" @submit.prevent="signIn">
      <img :src="mark" alt="" width="44" height="44" class="mb-3" />
      <h1 class="text-[26px] leading-tight">{{ $t('signin.amberSeal') }}</h1>
      <p class="mb-6 text-soft">{{ session?.house }}</p>
      <p v-if="route.query.ended" class="mb-5" role="status">{{ $t('signin.yourSessionHasEndedWhat') }}</p>
      <label class="mb-1 block font-semibold" for="email">{{ $t('signin.email') }}</label>
      <input id="email" v-model="email" class="entry mb-4" type="email" autocomplete="username" required />
      <label class="mb-1 block font-semibold" for="password">{{ $t('signin.password') }}</label>
      <input
        id="password"
        v-model="password"
        class="entry mb-4"
        type="password"
        autocomplete="current-password"
        required
      />
      <p v-if="problem" role="alert" class="mb-4 font-semibold text-madder">✕ {{ problem }}</p>
      <ActionButton main class="w-full" type="submit" :disabled="busy">{{ $t('signin.sign') }}</ActionButton>
      <p v-if="session?.demo" class="mt-4 text-soft">{{ $t('signin.demoHouseOwnersAddressPassword') }}</p>
    </form>
  </main>
</template>
