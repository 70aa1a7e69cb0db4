<script setup lang="ts">
import { ref } from 'vue'
import type { PaperDocument } from '../../../../shared/types'
import EntryCell from '../../../parts/EntryCell.vue'
import FileEntry from '../../../parts/FileEntry.vue'
import SettingCell from '../../../parts/SettingCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import { words } from '../../../api'
import { t } from '../../../words'
import { bring, knownAs } from '../brought/brought'

/** The house's letter paper behind the pages, and the room that it leaves on the first one. */
const page = defineModel<PaperDocument['page']>({ required: true })
type Printed = NonNullable<PaperDocument['page']['printed']>
const sheets = { first: t('page.letterPaperFirst'), rest: t('page.letterPaperRest') } as const
const room = { top: t('page.letterPaperTop'), bottom: t('page.letterPaperBottom') } as const
const problem = ref('')
const busy = ref('')

function change(what: Partial<Printed>) {
  const printed = { ...page.value.printed, ...what }
  const kept = Object.entries(printed).filter(([, v]) => v)
  if (kept.length) page.value.printed = Object.fromEntries(kept)
  else delete page.value.printed
}
async function take(which: keyof typeof sheets, file: File) {
  busy.value = which
  problem.value = ''
  try {
    change({ [which]: await bring(file) })
  } catch (err) {
    problem.value = words(err)
  } finally {
    busy.value = ''
  }
}
function setRoom(side: keyof typeof room, text: string) {
  const n = Number(text.replace(',', '.'))
  if (!text.trim() || n >= 0) change({ [side]: text.trim() ? n : undefined })
}
</script>

<template>
  <div class="grid gap-2">
    <SettingsGrid>
      <SettingCell v-for="(label, which) in sheets" :key="which" :label="label" full>
        <span v-if="page.printed?.[which]" class="mr-4 font-mono text-[13px]">{{ knownAs(page.printed[which]!) }}</span>
        <FileEntry
          plain
          :label="
            busy === which
              ? $t('page.bringingLetterPaper')
              : page.printed?.[which]
                ? $t('page.anotherPdf')
                : $t('page.choosePdf')
          "
          :says="$t('page.choosePdfFor', { label })"
          accept="application/pdf"
          :busy="busy !== ''"
          @file="take(which, $event)"
        />
        <button v-if="page.printed?.[which]" type="button" class="link ml-4" @click="change({ [which]: undefined })">
          {{ $t('page.withoutLetterPaper') }}<span class="sr-only">{{ ' ' + label }}</span>
        </button>
      </SettingCell>
      <EntryCell
        v-for="(label, side) in room"
        :key="side"
        :label="label"
        mode="decimal"
        :placeholder="$t('page.looks')"
        :model-value="String(page.printed?.[side] ?? '')"
        @update:model-value="setRoom(side, $event)"
      />
    </SettingsGrid>
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
  </div>
</template>
