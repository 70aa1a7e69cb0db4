<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import mark from '../../shared/mark.svg'
import { api, data, words } from '../api'
import { session } from '../session'

/** Where the link of a letter leads: somebody chooses their password, and is in. */
const route = useRoute()
const router = useRouter()
const path = { params: { path: { token: String(route.params.token) } } }
const who = ref<{ name: string; email: string; house: string }>()
const password = ref('')
const shown = ref(false)
const problem = ref('')
const busy = ref(false)

onMounted(async () => {
  try {
    who.value = await data(api.GET('/api/welcome/{token}', path))
  } catch (e) {
    problem.value = words(e)
  }
})
async function choose() {
  busy.value = true
  problem.value = ''
  try {
    session.value = await data(api.POST('/api/welcome/{token}', { ...path, body: { password: password.value } }))
    await router.replace('/')
  } catch (e) {
    problem.value = words(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <main class="mx-auto mt-[12vh] w-full max-w-[400px] px-3">
    <form class="border-t-4 border-ink bg-sheet px-8 py-8" @submit.prevent="choose">
      <img :src="mark" alt="" width="44" height="44" class="mb-3" />
      <h1 class="text-[26px] leading-tight">
        {{ who ? $t('signin.welcome', { name: who.name }) : $t('signin.welcome2') }}
      </h1>
      <template v-if="who">
        <p class="mb-6 text-soft">{{ who.house }}</p>
        <p class="mb-5">{{ $t('signin.choosePasswordWhichYouWill', { email: who.email }) }}</p>
        <input
          type="text"
          autocomplete="username"
          :value="who.email"
          class="sr-only"
          tabindex="-1"
          aria-hidden="true"
          readonly
        />
        <label class="mb-1 block font-semibold" for="password">{{ $t('signin.password') }}</label>
        <input
          id="password"
          v-model="password"
          class="entry mb-2"
          :type="shown ? 'text' : 'password'"
          autocomplete="new-password"
          aria-describedby="password-help"
          required
        />
        <p id="password-help" class="mb-2 text-soft">{{ $t('signin.least12CharactersFewWords') }}</p>
        <label class="mb-5 flex items-center gap-2"
          ><input v-model="shown" type="checkbox" /> {{ $t('signin.show') }}</label
        >
        <p v-if="problem" role="alert" class="mb-4 font-semibold text-madder">✕ {{ problem }}</p>
        <ActionButton main class="w-full" type="submit" :disabled="busy">{{ $t('signin.go') }}</ActionButton>
      </template>
      <template v-else-if="problem">
        <p role="alert" class="my-4">{{ problem }}</p>
        <RouterLink class="link" to="/sign-in">{{ $t('signin.signPasswordYouHave') }}</RouterLink>
      </template>
    </form>
  </main>
</template>
