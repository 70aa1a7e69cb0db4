<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { ref } from 'vue'
import { api, data, words } from '../api'
import PlaceHead from '../parts/PlaceHead.vue'
import { session } from '../session'
import { roleWords } from '../people/people'
import { t } from '../words'

const present = ref('')
const next = ref('')
const problem = ref('')
const said = ref('')
async function change() {
  problem.value = said.value = ''
  try {
    await data(api.PUT('/api/session/password', { body: { present: present.value, next: next.value } }))
    present.value = next.value = ''
    said.value = t('account.newPasswordKeptYourOther')
  } catch (e) {
    problem.value = words(e)
  }
}
async function endOthers() {
  problem.value = said.value = ''
  try {
    await data(api.DELETE('/api/session/others'))
    said.value = t('account.youSignedHereAlone')
  } catch (e) {
    problem.value = words(e)
  }
}
</script>

<template>
  <main class="flex grow flex-col">
    <PlaceHead :title="session?.name ?? ''">
      <template #state
        ><span class="text-soft">{{
          $t('account.of', { email: session?.email, role: roleWords(session?.role), house: session?.house })
        }}</span></template
      >
    </PlaceHead>
    <div class="px-3 pb-6 sm:px-6">
      <div class="sheet px-6 py-6">
        <h2 class="mb-3 text-[17px]">{{ $t('account.yourPassword') }}</h2>
        <form class="grid max-w-[400px] gap-3" @submit.prevent="change">
          <input
            type="text"
            autocomplete="username"
            :value="session?.email"
            class="sr-only"
            tabindex="-1"
            aria-hidden="true"
            readonly
          />
          <label>
            <span class="mb-0.5 block text-[13px] text-soft">{{ $t('account.presentOne') }}</span>
            <input v-model="present" class="entry" type="password" autocomplete="current-password" required />
          </label>
          <label>
            <span class="mb-0.5 block text-[13px] text-soft">{{ $t('account.newOneLeast12Characters') }}</span>
            <input v-model="next" class="entry" type="password" autocomplete="new-password" required />
          </label>
          <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
          <p role="status" class="text-pine">{{ said ? `● ${said}` : '' }}</p>
          <p>
            <ActionButton main type="submit">{{ $t('account.keepNewPassword') }}</ActionButton>
          </p>
        </form>
        <h2 class="mt-6 mb-2 text-[17px]">{{ $t('account.yourSessions') }}</h2>
        <p class="mb-3 max-w-[60ch]">{{ $t('account.ifYouForgotSignOut') }}</p>
        <ActionButton @click="endOthers">{{ $t('account.endMyOtherSessions') }}</ActionButton>
      </div>
    </div>
  </main>
</template>
