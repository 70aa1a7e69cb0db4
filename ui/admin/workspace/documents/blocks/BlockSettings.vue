<script setup lang="ts">
import { computed } from 'vue'
import { blockKindOrder } from '../../../../shared/kinds.gen'
import { blockSettings } from '../../../../shared/settings'
import type { Block, BlockKind } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import ConditionWords from '../../formula/ConditionWords.vue'
import { useIntake } from '../../intake'
import ComboChoice from '../../../parts/ComboChoice.vue'
import OnSwitch from '../../../parts/OnSwitch.vue'
import PictureChooser from '../../../parts/PictureChooser.vue'
import SettingCell from '../../../parts/SettingCell.vue'
import { blockKinds, blockNotes } from '../../kinds'
import { useRowsHere } from '../../rows'
import AnswersSettings from './AnswersSettings.vue'
import { blockOf } from './blocks'
import ChartSettings from './ChartSettings.vue'
import CodeSettings from './CodeSettings.vue'
import ColumnsSettings from './ColumnsSettings.vue'
import EachWords from './EachWords.vue'
import FactsSettings from './FactsSettings.vue'
import GridSettings from './GridSettings.vue'
import LetterheadSettings from './LetterheadSettings.vue'
import LineTableSettings from './LineTableSettings.vue'
import MissingWords from './MissingWords.vue'
import PictureSettings from './PictureSettings.vue'
import ChoiceCell from '../../../parts/ChoiceCell.vue'
import MillimetreCell from './MillimetreCell.vue'
import SettingsGrid from '../../../parts/SettingsGrid.vue'
import EntryCell from '../../../parts/EntryCell.vue'

/** A block's settings, inside its line. */
const block = defineModel<Block>({ required: true })
defineEmits<{ enter: [] }>()
const { design } = useIntake()
const rows = useRowsHere()
const own = computed(() => blockSettings(block.value))

const signatures = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'signature'))
const views = {
  lines: LineTableSettings,
  facts: FactsSettings,
  letterhead: LetterheadSettings,
  answers: AnswersSettings,
  picture: PictureSettings,
  chart: ChartSettings,
  table: GridSettings,
  columns: ColumnsSettings,
  code: CodeSettings,
}
const kinds = blockKindOrder.map((k) => ({ value: k as string, words: blockKinds[k], note: blockNotes[k].says }))
const settings = computed(() => views[block.value.kind as keyof typeof views])

function setKind(kind: BlockKind) {
  const { id, when, each } = block.value
  const { blocks } = own.value
  block.value = {
    ...blockOf(kind, id, design.value?.form.fields ?? []),
    ...(when !== undefined ? { when } : {}),
    ...(each !== undefined ? { each } : {}),
    ...(kind === 'group' && blocks ? { group: { blocks } } : {}),
  }
}
</script>

<template>
  <div class="grid gap-3">
    <PhraseEditor
      v-if="block.kind === 'heading'"
      v-model:line="own.text"
      :label="$t('blocks.heading')"
      titled
      @enter="$emit('enter')"
    />
    <template v-if="block.kind === 'cover' || block.kind === 'contents'">
      <div>
        <span class="text-[13px] text-soft">{{ $t('blocks.title') }}</span><PhraseEditor
          v-model:line="own.text"
          :label="$t('blocks.title')"
        />
      </div>
      <div v-if="block.kind === 'cover'">
        <span class="text-[13px] text-soft">{{ $t('blocks.underTitle') }}</span><PhraseEditor
          v-model:line="own.caption"
          :label="$t('blocks.underTitle')"
        />
      </div>
    </template>
    <PhraseEditor v-if="block.kind === 'text'" v-model:body="own.body" :label="$t('blocks.text')" rich />
    <div v-if="block.kind === 'signature' || block.kind === 'strip'">
      <span class="text-[13px] text-soft">{{
        block.kind === 'strip' ? $t('blocks.eachStubSays') : $t('blocks.nameUnderLine')
      }}</span>
      <PhraseEditor
        v-model:line="own.text"
        :label="block.kind === 'strip' ? $t('blocks.wordsStub') : $t('blocks.nameUnderLine')"
      />
    </div>
    <component :is="settings" v-if="settings" :model-value="own" />
    <ConditionWords v-model="block.when" :verb="$t('blocks.shown')" :rows="rows ?? ''" />
    <SettingsGrid>
      <SettingCell :label="$t('blocks.kind')">
        <ComboChoice
          data-kind
          :label="$t('blocks.kind2')"
          :model-value="block.kind"
          :options="kinds"
          @update:model-value="setKind($event as BlockKind)"
        />
      </SettingCell>
      <EachWords v-model="block.each" />
      <ChoiceCell
        v-if="block.kind === 'heading' || block.kind === 'contents'"
        :label="block.kind === 'contents' ? $t('blocks.deepest') : $t('blocks.level')"
        v-model="own.level"
        :options="[
          { value: 1, words: '1' },
          { value: 2, words: '2' },
          { value: 3, words: '3' },
        ]"
      />
      <ChoiceCell
        v-if="['heading', 'picture', 'code', 'chart'].includes(block.kind)"
        :label="$t('blocks.stands')"
        :model-value="own.align ?? 'start'"
        @update:model-value="own.align = $event"
        :options="[
          { value: 'start', words: $t('blocks.start') },
          { value: 'center', words: $t('blocks.middle') },
          { value: 'end', words: $t('blocks.end') },
        ]"
      />
      <MillimetreCell v-if="block.kind === 'space'" :label="$t('blocks.height')" v-model="own.height" :usual="8" />
      <SettingCell v-if="block.kind === 'space'" :label="$t('blocks.ruled')"
        ><OnSwitch
          :model-value="own.ruled ?? false"
          :label="$t('blocks.ruledWhat')"
          @update:model-value="own.ruled = $event"
      /></SettingCell>
      <SettingCell v-if="block.kind === 'text'" :label="$t('blocks.callOut')"
        ><OnSwitch
          :model-value="own.callOut ?? false"
          :label="$t('blocks.callOutWhat')"
          @update:model-value="own.callOut = $event"
      /></SettingCell>
      <template v-if="block.kind === 'cover'">
        <SettingCell :label="$t('blocks.coverPicture')" full>
          <PictureChooser shapes :model-value="own.picture" @update:model-value="own.picture = $event ?? ''" />
        </SettingCell>
        <EntryCell
          v-if="own.picture"
          :label="$t('blocks.whatItShows')"
          :model-value="own.alt ?? ''"
          @update:model-value="own.alt = $event"
        />
      </template>
      <template v-if="block.kind === 'strip'">
        <EntryCell
          :label="$t('blocks.stubs')"
          mode="numeric"
          :model-value="String(own.stubs ?? 1)"
          @update:model-value="own.stubs = Number.parseInt($event, 10) || 1"
        />
        <MillimetreCell :label="$t('blocks.height')" v-model="own.height" :usual="60" />
      </template>
      <template v-if="block.kind === 'signature'">
        <ChoiceCell
          :label="$t('blocks.signature')"
          v-model="own.field"
          :options="signatures.map((f) => ({ value: f.key, words: f.label }))"
        />
        <MissingWords v-model="own.missing" usual="space" />
      </template>
    </SettingsGrid>
  </div>
</template>
