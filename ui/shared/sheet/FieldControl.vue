<script setup lang="ts">
import { computed } from 'vue'
import LostPart from './LostPart.vue'
import { part } from '../part'
import { shapes } from '../kinds.gen'
import type { Field, FileAnswer, Mark, Row, Typed } from '../types'
import ChoiceControl from './controls/ChoiceControl.vue'
import PartsControl from './controls/PartsControl.vue'
import TextControl from './controls/TextControl.vue'
import { useSheet } from './sheet'

/** One question with its label, help, control and error. */
const props = defineProps<{ field: Field; path: string; proof?: boolean; marked?: string | undefined }>()
const emit = defineEmits<{ pick: [name: string]; touch: [path: string] }>()
const model = defineModel<Typed>({ required: true })

// Seldom used, so that a plain form stays small.
const FilesControl = part(() => import('./controls/FilesControl.vue'), LostPart)
const SignatureControl = part(() => import('./controls/SignatureControl.vue'), LostPart)
const RowsControl = part(() => import('./controls/RowsControl.vue'), LostPart)

type Signed = Mark | null

const sheet = useSheet()
const shape = computed(() => shapes[props.field.kind])
const id = computed(() => sheet.idOf(props.path))
const error = computed(() => sheet.errorOf(props.path))
const required = computed(() => sheet.requires(props.path, props.field))
const described = computed(
  () =>
    [props.field.help ? `${id.value}-help` : '', error.value ? `${id.value}-error` : ''].join(' ').trim() || undefined,
)
const grouped = computed(
  () =>
    ['one', 'several', 'truth', 'parts', 'drawn', 'repeated'].includes(shape.value) || props.field.kind === 'rating',
)
const chosen = computed(() => ['one', 'several', 'truth'].includes(shape.value) || props.field.kind === 'rating')
const single = computed(() => chosen.value && shape.value !== 'several')
const bound = computed(() => ({ field: props.field, id: id.value, described: described.value, invalid: !!error.value }))
</script>

<template>
  <div
    v-if="field.formula"
    :id="id"
    class="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-faint pb-1"
  >
    <span class="font-semibold">{{ field.label }}</span>
    <output class="text-[17px] tabular-nums" aria-live="polite">{{
      sheet.calculated(path) || (proof ? sheet.texts.calculated : '–')
    }}</output>
    <p v-if="field.help" class="w-full text-soft">{{ field.help }}</p>
  </div>

  <div v-else-if="field.kind === 'consent'">
    <label class="flex min-h-[32px] items-start gap-2.5">
      <input
        :id="id"
        type="checkbox"
        class="mt-0.5 size-[18px] shrink-0"
        :checked="model === true"
        :aria-describedby="described"
        :aria-invalid="error ? 'true' : undefined"
        :aria-required="required || undefined"
        @change="model = ($event.target as HTMLInputElement).checked"
      />
      <span class="font-semibold">
        {{ field.label }}
        <span v-if="!required" class="font-normal text-soft" :lang="sheet.ours || undefined"
          >({{ sheet.texts.optional }})</span
        >
      </span>
    </label>
    <p v-if="field.help" :id="`${id}-help`" class="text-soft">{{ field.help }}</p>
    <p v-if="error" :id="`${id}-error`" class="mt-1 font-semibold text-madder" :lang="sheet.ours || undefined">
      ✕ {{ error }}
    </p>
  </div>

  <component
    :is="grouped ? 'fieldset' : 'div'"
    v-else
    :id="grouped ? id : undefined"
    class="min-w-0"
    :aria-describedby="grouped ? described : undefined"
    :role="single ? 'radiogroup' : undefined"
    :aria-required="single && required ? 'true' : undefined"
    :aria-invalid="single && error ? 'true' : undefined"
    :tabindex="grouped ? -1 : undefined"
  >
    <component :is="grouped ? 'legend' : 'label'" :for="grouped ? undefined : id" class="mb-1 block font-semibold">
      {{ field.label }}
      <span v-if="!required" class="font-normal text-soft" :lang="sheet.ours || undefined"
        >({{ sheet.texts.optional }})</span
      >
    </component>
    <p v-if="field.help" :id="`${id}-help`" class="mb-1 text-soft">{{ field.help }}</p>
    <RowsControl
      v-if="shape === 'repeated'"
      :model-value="model as Row[]"
      v-bind="bound"
      :path="path"
      :proof="proof ?? false"
      :marked="marked"
      @update:model-value="model = $event"
      @pick="emit('pick', $event)"
      @touch="emit('touch', $event)"
    />
    <ChoiceControl v-else-if="chosen" v-model="model" v-bind="bound" :required="required" />
    <PartsControl
      v-else-if="shape === 'parts'"
      :model-value="model as Record<string, string>"
      v-bind="bound"
      :path="path"
      :required="required"
      @update:model-value="model = $event"
    />
    <FilesControl
      v-else-if="shape === 'files'"
      :model-value="model as FileAnswer[]"
      v-bind="bound"
      :required="required"
      :path="path"
      @update:model-value="model = $event"
    />
    <SignatureControl
      v-else-if="shape === 'drawn'"
      :model-value="model as Signed"
      v-bind="bound"
      :required="required"
      :path="path"
      @update:model-value="model = $event"
    />
    <TextControl
      v-else
      :model-value="String(model ?? '')"
      v-bind="bound"
      :path="path"
      :required="required"
      @update:model-value="model = $event"
    />
    <p v-if="error" :id="`${id}-error`" class="mt-1 font-semibold text-madder" :lang="sheet.ours || undefined">
      ✕ {{ error }}
    </p>
  </component>
</template>
