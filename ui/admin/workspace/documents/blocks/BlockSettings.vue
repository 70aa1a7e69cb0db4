<script setup lang="ts">
import { computed } from 'vue'
import { blockKindOrder } from '../../../../shared/kinds.gen'
import { blockSettings } from '../../../../shared/settings'
import type { Block, BlockKind } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import ConditionWords from '../../formula/ConditionWords.vue'
import { useIntake } from '../../intake'
import { blockKinds } from '../../kinds'
import { useRowsHere } from '../../rows'
import AnswersSettings from './AnswersSettings.vue'
import { blockOf } from './blocks'
import ChartSettings from './ChartSettings.vue'
import CodeSettings from './CodeSettings.vue'
import ColumnsSettings from './ColumnsSettings.vue'
import EachWords from './EachWords.vue'
import GridSettings from './GridSettings.vue'
import LineTableSettings from './LineTableSettings.vue'
import MillimetreWord from './MillimetreWord.vue'
import MissingWords from './MissingWords.vue'
import PictureSettings from './PictureSettings.vue'

/** A block's settings, inside its line. */
const block = defineModel<Block>({ required: true })
defineEmits<{ enter: [] }>()
const { design } = useIntake()
const rows = useRowsHere()
const own = computed(() => blockSettings(block.value))

const signatures = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'signature'))
const views = {
  lines: LineTableSettings,
  answers: AnswersSettings,
  picture: PictureSettings,
  chart: ChartSettings,
  table: GridSettings,
  columns: ColumnsSettings,
  code: CodeSettings,
}
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
      label="Heading"
      titled
      @enter="$emit('enter')"
    />
    <PhraseEditor v-if="block.kind === 'text'" v-model:body="own.body" label="Text" rich />
    <div v-if="block.kind === 'signature' || block.kind === 'strip'">
      <span class="text-soft">{{ block.kind === 'strip' ? 'each stub says' : 'name under the line' }}</span>
      <PhraseEditor
        v-model:line="own.text"
        :label="block.kind === 'strip' ? 'Words of a stub' : 'Name under the line'"
      />
    </div>
    <component :is="settings" v-if="settings" :model-value="own" />
    <div class="words">
      <label>
        kind
        <select
          class="word"
          data-kind
          :value="block.kind"
          @change="setKind(($event.target as HTMLSelectElement).value as BlockKind)"
        >
          <option v-for="k in blockKindOrder" :key="k" :value="k">{{ blockKinds[k] }}</option>
        </select>
      </label>
      <ConditionWords v-model="block.when" verb="shown" :rows="rows ?? ''" />
      <EachWords v-model="block.each" />
      <label v-if="block.kind === 'heading'">
        level
        <select v-model.number="own.level" class="word">
          <option :value="1">1</option>
          <option :value="2">2</option>
          <option :value="3">3</option>
        </select>
      </label>
      <label v-if="['heading', 'picture', 'code', 'chart'].includes(block.kind)">
        stands
        <select
          class="word"
          :value="own.align ?? 'start'"
          @change="own.align = ($event.target as HTMLSelectElement).value"
        >
          <option value="start">at the start</option>
          <option value="center">in the middle</option>
          <option value="end">at the end</option>
        </select>
      </label>
      <label v-if="block.kind === 'space'"
        >height <MillimetreWord v-model="own.height" label="Height in millimetres" :usual="8" /> mm</label
      >
      <template v-if="block.kind === 'strip'">
        <label>stubs <input v-model.number="own.stubs" class="word w-[44px]" inputmode="numeric" /></label>
        <label>height <MillimetreWord v-model="own.height" label="Height in millimetres" :usual="60" /> mm</label>
      </template>
      <template v-if="block.kind === 'signature'">
        <label>
          of
          <select v-model="own.field" class="word">
            <option v-for="f in signatures" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select>
        </label>
        <MissingWords v-model="own.missing" usual="space" />
      </template>
    </div>
  </div>
</template>
