<script setup lang="ts">
import { computed } from 'vue'
import type { Block, BlockKind } from '../../../shared/types'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import PictureChooser from '../../parts/PictureChooser.vue'
import ConditionWords from '../formula/ConditionWords.vue'
import { useIntake } from '../intake'
import { asks, blockKindOrder, blockKinds } from '../kinds'
import { blockOf } from './blocks'
import LineTableSettings from './LineTableSettings.vue'
import PayeeSettings from './PayeeSettings.vue'

/** A block's settings, inside its line. */
const block = defineModel<Block>({ required: true })
defineEmits<{ enter: [] }>()
const { design } = useIntake()

const askable = computed(() => (design.value?.form.fields ?? []).filter((f) => asks(f.kind)))
const signatures = computed(() => (design.value?.form.fields ?? []).filter((f) => f.kind === 'signature'))
const chosen = computed(() => block.value.fields ?? [])
function choose(key: string, on: boolean) {
  // Chosen answers keep the form's order.
  const keys = askable.value.map((f) => f.key).filter((k) => (k === key ? on : chosen.value.includes(k)))
  block.value.fields = keys
}
function setAll(all: boolean) {
  if (all) delete block.value.fields
  else block.value.fields = askable.value.map((f) => f.key)
}
function setKind(kind: BlockKind) {
  block.value = {
    ...blockOf(kind, block.value.id, design.value?.form.fields ?? []),
    ...(block.value.when !== undefined ? { when: block.value.when } : {}),
  }
}
function setCode(e: Event) {
  block.value.code = (e.target as HTMLSelectElement).value as NonNullable<Block['code']>
  if (block.value.code === 'payment') block.value.payee ??= { iban: '' }
}
const number = (e: Event) => Number((e.target as HTMLInputElement).value) || 0
const yes = (e: Event) => (e.target as HTMLSelectElement).value === 'yes'
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
    <div v-if="block.kind === 'code' || block.kind === 'signature'">
      <span class="text-soft">{{ block.kind === 'code' ? 'says' : 'name under the line' }}</span>
      <PhraseEditor
        v-model:line="block.text"
        :label="block.kind === 'code' ? 'What the code says' : 'Name under the line'"
      />
    </div>
    <PayeeSettings v-if="block.kind === 'code' && block.code === 'payment'" v-model="block" />
    <LineTableSettings v-if="block.kind === 'lines'" v-model="block" />
    <template v-if="block.kind === 'picture'">
      <PictureChooser v-model="block.picture" />
      <label class="text-soft"
        >what it shows
        <input v-model="block.alt" class="word w-full text-ink" placeholder="for those who cannot see it"
      /></label>
    </template>
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
      <ConditionWords v-model="block.when" verb="shown" />
      <label v-if="block.kind === 'heading'">
        level
        <select v-model.number="block.level" class="word">
          <option :value="1">1</option>
          <option :value="2">2</option>
          <option :value="3">3</option>
        </select>
      </label>
      <label v-if="block.kind === 'heading' || block.kind === 'picture' || block.kind === 'code'">
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
      <label v-if="block.kind === 'picture'"
        >at most
        <input
          class="word w-[52px]"
          inputmode="decimal"
          :value="block.width ?? 80"
          aria-label="Width in millimetres"
          @change="block.width = number($event)"
        />
        ×
        <input
          class="word w-[52px]"
          inputmode="decimal"
          :value="block.height ?? 60"
          aria-label="Height in millimetres"
          @change="block.height = number($event)"
        />
        mm</label
      >
      <label v-if="block.kind === 'space'"
        >height
        <input
          class="word w-[52px]"
          inputmode="decimal"
          :value="block.height ?? 8"
          @change="block.height = number($event)"
        />
        mm</label
      >
      <template v-if="block.kind === 'code'">
        <label>
          as
          <select class="word" :value="block.code ?? 'qr'" @change="setCode($event)">
            <option value="qr">QR</option>
            <option value="datamatrix">Data Matrix</option>
            <option value="code128">Code 128</option>
            <option value="ean13">EAN-13</option>
            <option value="payment">payment (SEPA)</option>
          </select>
        </label>
        <label
          >width
          <input
            class="word w-[52px]"
            inputmode="decimal"
            :value="block.width ?? 30"
            @change="block.width = number($event)"
          />
          mm</label
        >
      </template>
      <template v-if="block.kind === 'signature'">
        <label>
          of
          <select v-model="block.field" class="word">
            <option v-for="f in signatures" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select>
        </label>
        <label>
          when it is missing
          <select
            class="word"
            :value="block.missing === 'nothing' ? 'nothing' : 'space'"
            @change="block.missing = ($event.target as HTMLSelectElement).value"
          >
            <option value="space">leave space to sign</option>
            <option value="nothing">leave nothing</option>
          </select>
        </label>
      </template>
      <template v-if="block.kind === 'answers'">
        <label>
          answers
          <select
            class="word"
            :value="block.fields ? 'chosen' : 'all'"
            @change="setAll(($event.target as HTMLSelectElement).value === 'all')"
          >
            <option>all</option>
            <option>chosen</option>
          </select>
        </label>
        <label>
          empty ones
          <select class="word" :value="block.hideEmpty ? 'no' : 'yes'" @change="block.hideEmpty = !yes($event)">
            <option value="yes">printed</option>
            <option value="no">left out</option>
          </select>
        </label>
        <label>
          header row
          <select class="word" :value="block.headed ? 'yes' : 'no'" @change="block.headed = yes($event)">
            <option>no</option>
            <option>yes</option>
          </select>
        </label>
      </template>
    </div>
    <fieldset v-if="block.kind === 'answers' && block.fields" class="grid gap-x-4 sm:grid-cols-2">
      <legend class="sr-only">Which answers</legend>
      <label v-for="f in askable" :key="f.key" class="flex items-center gap-2">
        <input
          type="checkbox"
          :checked="chosen.includes(f.key)"
          @change="choose(f.key, ($event.target as HTMLInputElement).checked)"
        />
        <span class="truncate">{{ f.label }}</span>
      </label>
    </fieldset>
  </div>
</template>
