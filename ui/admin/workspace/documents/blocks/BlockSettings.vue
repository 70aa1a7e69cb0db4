<script setup lang="ts">
import { computed } from 'vue'
import type { Block, BlockKind } from '../../../../shared/types'
import PhraseEditor from '../../../parts/PhraseEditor.vue'
import ConditionWords from '../../formula/ConditionWords.vue'
import { useIntake } from '../../intake'
import { blockKindOrder, blockKinds } from '../../kinds'
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

const signatures = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'signature'))
const own = {
  lines: LineTableSettings,
  answers: AnswersSettings,
  picture: PictureSettings,
  chart: ChartSettings,
  table: GridSettings,
  columns: ColumnsSettings,
  code: CodeSettings,
}
const settings = computed(() => own[block.value.kind as keyof typeof own])

function setKind(kind: BlockKind) {
  const { id, when, each, blocks } = block.value
  block.value = {
    ...blockOf(kind, id, design.value?.form.fields ?? []),
    ...(when !== undefined ? { when } : {}),
    ...(each !== undefined ? { each } : {}),
    ...(kind === 'group' && blocks ? { blocks } : {}),
  }
}
</script>

<template>
  <div class="grid gap-3">
    <PhraseEditor
      v-if="block.kind === 'heading'"
      v-model:line="block.text"
      label="Heading"
      titled
      @enter="$emit('enter')"
    />
    <PhraseEditor v-if="block.kind === 'text'" v-model:body="block.body" label="Text" rich />
    <div v-if="block.kind === 'signature' || block.kind === 'strip'">
      <span class="text-soft">{{ block.kind === 'strip' ? 'each stub says' : 'name under the line' }}</span>
      <PhraseEditor
        v-model:line="block.text"
        :label="block.kind === 'strip' ? 'Words of a stub' : 'Name under the line'"
      />
    </div>
    <component :is="settings" v-if="settings" v-model="block" />
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
        <select v-model.number="block.level" class="word">
          <option :value="1">1</option>
          <option :value="2">2</option>
          <option :value="3">3</option>
        </select>
      </label>
      <label v-if="['heading', 'picture', 'code', 'chart'].includes(block.kind)">
        stands
        <select
          class="word"
          :value="block.align ?? 'start'"
          @change="block.align = ($event.target as HTMLSelectElement).value"
        >
          <option value="start">at the start</option>
          <option value="center">in the middle</option>
          <option value="end">at the end</option>
        </select>
      </label>
      <label v-if="block.kind === 'space'"
        >height <MillimetreWord v-model="block.height" label="Height in millimetres" :usual="8" /> mm</label
      >
      <template v-if="block.kind === 'strip'">
        <label>stubs <input v-model.number="block.stubs" class="word w-[44px]" inputmode="numeric" /></label>
        <label>height <MillimetreWord v-model="block.height" label="Height in millimetres" :usual="60" /> mm</label>
      </template>
      <template v-if="block.kind === 'signature'">
        <label>
          of
          <select v-model="block.field" class="word">
            <option v-for="f in signatures" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select>
        </label>
        <MissingWords v-model="block.missing" usual="space" />
      </template>
    </div>
  </div>
</template>
