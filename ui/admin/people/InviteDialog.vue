<script setup lang="ts">
import ActionButton from '../parts/ActionButton.vue'
import { ref, watch } from 'vue'
import type { IntakeLine, PersonEntry } from '../../shared/types'
import DialogSheet from '../parts/DialogSheet.vue'
import EntryCell from '../parts/EntryCell.vue'
import SettingsGrid from '../parts/SettingsGrid.vue'
import RoleCells from './RoleCells.vue'

/** Asks somebody in by a letter. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  intakes: IntakeLine[]
  problem: string
  invite: (email: string, entry: PersonEntry) => Promise<boolean>
}>()
const fresh = (): PersonEntry => ({ name: '', role: 'staff', intakes: [] })
const email = ref('')
const entry = ref(fresh())
const tried = ref(false)
watch(open, (now) => {
  if (now) tried.value = false
})
async function send() {
  tried.value = true
  if (!(await props.invite(email.value, entry.value))) return
  email.value = ''
  entry.value = fresh()
  open.value = false
}
</script>

<template>
  <DialogSheet v-model="open" :title="$t('people.askSomebody')">
    <form class="grid gap-4" novalidate @submit.prevent="send">
      <SettingsGrid>
        <EntryCell v-model="entry.name" :label="$t('people.name')" live />
        <EntryCell v-model="email" :label="$t('people.email')" type="email" live />
        <RoleCells v-model="entry" :intakes="intakes" />
      </SettingsGrid>
      <p class="text-soft">{{ $t('people.letterGoesAddressLinkWorks') }}</p>
      <p v-if="tried && problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
      <div class="flex flex-wrap gap-3">
        <ActionButton main type="submit">{{ $t('people.sendLetter') }}</ActionButton>
        <ActionButton @click="open = false">{{ $t('people.notNow') }}</ActionButton>
      </div>
    </form>
  </DialogSheet>
</template>
