<script setup lang="ts">
import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/vue'
import PlaceHead from '../parts/PlaceHead.vue'
import SentInvitations from './SentInvitations.vue'
import SentMessages from './SentMessages.vue'
import WaitingMessages from './WaitingMessages.vue'
import { useRoute } from 'vue-router'

const first = useRoute().query.tab === 'invitations' ? 2 : 0
</script>

<template>
  <main class="flex grow flex-col">
    <TabGroup :default-index="first">
      <PlaceHead :title="$t('post.post')">
        <template #state
          ><span class="text-soft">{{ $t('post.messagesAsTheyWentOut') }}</span></template
        >
        <TabList class="flex gap-4">
          <Tab
            v-for="name in [$t('post.messages'), $t('post.waiting'), $t('post.invitations')]"
            :key="name"
            v-slot="{ selected }"
            as="template"
          >
            <button class="min-h-[32px]" :class="selected ? 'border-b-2 border-ink font-semibold' : 'link'">
              {{ name }}
            </button>
          </Tab>
        </TabList>
      </PlaceHead>
      <TabPanels>
        <TabPanel><SentMessages /></TabPanel>
        <TabPanel><WaitingMessages /></TabPanel>
        <TabPanel><SentInvitations /></TabPanel>
      </TabPanels>
    </TabGroup>
  </main>
</template>
