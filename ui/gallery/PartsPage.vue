<script setup lang="ts">
import ActionButton from '../admin/parts/ActionButton.vue'
import { ref } from 'vue'
import AddLine from '../admin/parts/AddLine.vue'
import ChoiceCell from '../admin/parts/ChoiceCell.vue'
import ComboChoice from '../admin/parts/ComboChoice.vue'
import DateEntry from '../admin/parts/DateEntry.vue'
import DialogSheet from '../admin/parts/DialogSheet.vue'
import EntryCell from '../admin/parts/EntryCell.vue'
import FileEntry from '../admin/parts/FileEntry.vue'
import FoldAway from '../admin/parts/FoldAway.vue'
import ListChoice from '../admin/parts/ListChoice.vue'
import MenuButton from '../admin/parts/MenuButton.vue'
import OnSwitch from '../admin/parts/OnSwitch.vue'
import PopoverPanel from '../admin/parts/PopoverPanel.vue'
import SettingCell from '../admin/parts/SettingCell.vue'
import SettingsGrid from '../admin/parts/SettingsGrid.vue'
import TabRow from '../admin/parts/TabRow.vue'
import TakeBack, { type Gone } from '../admin/parts/TakeBack.vue'
import { blockKinds, blockNotes } from '../admin/workspace/kinds'
import { blockKindOrder } from '../shared/kinds.gen'

/** Every part of the workshop, in its states. */
const look = ref('ledger')
const zone = ref('Europe/London')
const on = ref(true)
const name = ref('Tarn Hollow')
const day = ref<string | undefined>('2026-11-24')
const moment = ref<string | undefined>()
const open = ref(false)
const tab = ref('one')
const gone = ref<Gone>()
const said = ref('')
const looks = [
  { value: 'ledger', words: 'Ledger', note: 'hairlines and header rows' },
  { value: 'letter', words: 'Letter', note: 'wide margins' },
  { value: 'ticket', words: 'Ticket', note: 'a band and boxes', disabled: true },
]
const zones = ['Europe/London', 'Europe/Warsaw', 'America/New_York', 'Asia/Tokyo'].map((value) => ({
  value,
  words: value.split('/')[1]!.replace('_', ' '),
  note: value,
}))
const deeds = [
  { words: 'Copy it', do: () => (said.value = 'copied') },
  { words: 'Remove it', grave: true, do: () => (said.value = 'removed') },
]
const blocks = blockKindOrder.map((value) => ({ value, words: blockKinds[value], ...blockNotes[value] }))
</script>

<template>
  <main class="mx-auto grid max-w-[760px] gap-6 bg-sheet p-6">
    <h1 class="text-[26px]">Parts</h1>
    <p class="flex flex-wrap gap-3">
      <ActionButton main type="submit">Main button</ActionButton>
      <ActionButton type="submit">Button</ActionButton>
      <ActionButton disabled>Not now</ActionButton>
      <button class="link">Link</button>
      <MenuButton label="Menu" :deeds="deeds" />
      <PopoverPanel label="Popover"><p>Something small.</p></PopoverPanel>
      <ActionButton @click="open = true">Dialog</ActionButton>
      <ActionButton @click="gone = { words: 'The heading is removed.', back: () => (said = 'taken back') }">
        Remove
      </ActionButton>
    </p>
    <p role="status" data-said>{{ said }}</p>
    <SettingsGrid>
      <EntryCell v-model="name" label="entry" />
      <EntryCell v-model="name" label="entry with a fault" error="It cannot be used." />
      <ChoiceCell v-model="look" label="one of a few" :options="looks" />
      <SettingCell label="one of many"><ComboChoice v-model="zone" label="One of many" :options="zones" /></SettingCell>
      <SettingCell label="day"><DateEntry v-model="day" label="Day" /></SettingCell>
      <SettingCell label="day and time"><DateEntry v-model="moment" timed label="Moment" /></SettingCell>
      <SettingCell label="switch"><OnSwitch v-model="on" label="on or off" /></SettingCell>
      <SettingCell label="file"><FileEntry label="Choose a file" @file="said = $event.name" /></SettingCell>
    </SettingsGrid>
    <p>A list in a sentence: <ListChoice v-model="look" label="Look" inline :options="looks" /></p>
    <FoldAway label="More" inside="what is seldom needed"><p>Folded away.</p></FoldAway>
    <TabRow
      v-model="tab"
      label="Tabs"
      :tabs="[
        { value: 'one', words: 'One' },
        { value: 'two', words: 'Two' },
      ]"
    >
      <template #one><p>The first.</p></template>
      <template #two><p>The second.</p></template>
    </TabRow>
    <AddLine
      label="Add a block"
      :options="blocks"
      :likely="['text', 'answers', 'code']"
      @add="said = `added ${$event}`"
    />
    <DialogSheet v-model="open" title="A dialog">
      <p class="mb-4">One thing that is done at once or left.</p>
      <ActionButton main @click="open = false">Done</ActionButton>
    </DialogSheet>
    <TakeBack v-model="gone" />
  </main>
</template>
