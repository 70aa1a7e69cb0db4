<script setup lang="ts">
import { ref } from 'vue'
import type { Message } from '../../shared/types'
import { api, data } from '../api'
import { useDeed } from '../load'
import ActionButton from '../parts/ActionButton.vue'
import EntryCell from '../parts/EntryCell.vue'
import { t } from '../words'

/** Sends a message's notice once more: to whom it went, or to another. */
const props = defineProps<{ message: Message }>()
const asking = ref(false)
const to = ref(props.message.to.join(', '))
const said = ref('')
const { problem, busy, run } = useDeed()
async function send() {
  const addresses = to.value
    .split(/[,;]/)
    .map((a) => a.trim())
    .filter(Boolean)
  const done = await run(() =>
    data(
      api.POST('/api/submissions/{id}/messages/{message}/again', {
        params: { path: { id: props.message.submissionId, message: props.message.id } },
        body: { to: addresses },
      }),
    ),
  )
  if (!done) return
  asking.value = false
  said.value = t('post.onItsWay', { to: addresses.join(', ') })
}
</script>

<template>
  <div class="mt-3">
    <form v-if="asking" class="grid gap-2" @submit.prevent="send">
      <EntryCell v-model="to" live :label="$t('post.sendTo')" :error="problem" :help="$t('post.withAnswersAsNow')" />
      <p class="flex gap-4">
        <ActionButton main type="submit" :disabled="busy">{{ $t('post.sendAgain') }}</ActionButton>
        <ActionButton @click="asking = false">{{ $t('post.leaveIt') }}</ActionButton>
      </p>
    </form>
    <ActionButton v-else @click="asking = true">{{ $t('post.sendAgain') }}</ActionButton>
    <p role="status" class="mt-1 text-pine">{{ said }}</p>
  </div>
</template>
