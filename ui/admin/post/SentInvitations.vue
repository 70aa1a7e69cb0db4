<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import type { Invitation } from '../../shared/types'
import { api, data } from '../api'
import { behind, useList } from '../load'
import { asMoment } from '../times'
import { t } from '../words'

/** Invitations of all intakes, as they went out or could not. */
const { all, more, problem, loaded, loadOlder } = useList<Invitation>((cursor) =>
  data(api.GET('/api/invitations', { params: { query: behind(cursor) } })),
)
const states = {
  waits: t('post.waits'),
  sent: t('post.sent'),
  failed: t('post.failed'),
  withdrawn: t('post.withdrawn'),
}
</script>

<template>
  <p v-if="problem" role="alert" class="px-6 pb-4 font-semibold text-madder">✕ {{ problem }}</p>
  <div v-if="loaded" class="px-3 pb-6 sm:px-6">
    <div class="sheet">
      <ul v-if="all.length">
        <li v-for="x in all" :key="x.id" class="flex flex-wrap gap-x-4 border-b border-faint px-5 py-2">
          <span class="min-w-0 font-semibold [overflow-wrap:anywhere]">{{ x.email }}</span>
          <RouterLink class="link" :to="`/intakes/${x.intakeId}/opening`">{{ x.intake }}</RouterLink>
          <span class="ml-auto">
            <RouterLink v-if="x.submission" class="link" :to="`/register/${x.submission}`">{{
              $t('post.answered', { number: x.number })
            }}</RouterLink>
            <span v-else :class="x.state === 'failed' ? 'text-madder' : 'text-soft'"
              >{{ states[x.state] }}<template v-if="x.reason">: {{ x.reason }}</template></span
            >
          </span>
          <span v-if="x.sent" class="whitespace-nowrap text-soft tabular-nums">{{ asMoment(x.sent) }}</span>
        </li>
      </ul>
      <p v-else class="px-6 py-8">{{ $t('post.peopleInvitedWhereIntakeOpened') }}</p>
      <div v-if="more" class="p-4">
        <ActionButton @click="loadOlder">{{ $t('post.showOlderOnes') }}</ActionButton>
      </div>
    </div>
  </div>
</template>
