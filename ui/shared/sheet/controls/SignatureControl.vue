<script setup lang="ts">
import SignaturePad from 'signature_pad'
import { nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import type { Mark } from '../../types'
import { useSheet, type ControlProps } from '../sheet'

/** A signature, drawn with mouse, finger or pen, typed, or uploaded. What is drawn stays strokes. */
const props = defineProps<ControlProps>()
const model = defineModel<Mark | null>({ required: true })
const sheet = useSheet()

type Way = 'draw' | 'type' | 'upload'
const ways: Way[] = ['draw', 'type', 'upload']
const way = ref<Way>(model.value?.typed ? 'type' : model.value?.file ? 'upload' : 'draw')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const problem = ref('')
let pad: SignaturePad | undefined

function begin() {
  const el = canvas.value
  pad?.off()
  if (!el) return
  const scale = Math.max(window.devicePixelRatio, 1)
  el.width = el.offsetWidth * scale
  el.height = el.offsetHeight * scale
  el.getContext('2d')?.scale(scale, scale)
  pad = new SignaturePad(el, { penColor: '#16262b', minWidth: 0.9, maxWidth: 2.1 })
  pad.addEventListener('endStroke', keep)
  if (model.value?.strokes) {
    pad.fromData(
      model.value.strokes.map((s) => ({
        penColor: '#16262b',
        dotSize: 0,
        minWidth: 0.9,
        maxWidth: 2.1,
        velocityFilterWeight: 0.7,
        compositeOperation: 'source-over' as const,
        points: s.flatMap((x, i) => (i % 2 ? [] : [{ x, y: s[i + 1]!, pressure: 0.5, time: i * 8 }])),
      })),
    )
  }
}
const round = (v: number) => Math.round(v * 10) / 10

function keep() {
  const el = canvas.value
  if (!pad || !el) return
  model.value = {
    strokes: pad.toData().map((s) => s.points.flatMap((p) => [round(p.x), round(p.y)])),
    width: el.offsetWidth,
    height: el.offsetHeight,
  }
}
function clear() {
  pad?.clear()
  model.value = null
}
watch(way, async () => {
  model.value = null
  problem.value = ''
  await nextTick()
  if (way.value === 'draw') begin()
})
watch(model, (v) => {
  if (!v && way.value === 'draw' && pad && !pad.isEmpty()) pad.clear()
})
onMounted(begin)
onBeforeUnmount(() => pad?.off())

async function upload(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (!file) return
  try {
    problem.value = ''
    model.value = { file: await sheet.upload(props.path.replace(/\/\d+\//, '.'), file, () => undefined) }
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e)
  }
}
</script>

<template>
  <div class="mb-2 flex gap-5" role="group" :aria-label="field.label" :aria-describedby="described">
    <button
      v-for="w in ways"
      :key="w"
      type="button"
      class="min-h-[44px]"
      :lang="sheet.ours || undefined"
      :class="way === w ? 'border-b-2 border-amber font-semibold' : 'text-soft'"
      :aria-pressed="way === w"
      @click="way = w"
    >
      {{ sheet.texts[w] }}
    </button>
    <button v-if="way === 'draw' && model" type="button" class="link ms-auto" @click="clear">
      {{ sheet.texts.clear }}
    </button>
  </div>
  <canvas
    v-if="way === 'draw'"
    ref="canvas"
    class="block h-[150px] w-full touch-none border border-edge bg-white"
    role="img"
    :aria-label="sheet.texts.drawHere"
    :aria-describedby="described"
  ></canvas>
  <input
    v-else-if="way === 'type'"
    class="entry font-title text-[20px] italic"
    dir="auto"
    :aria-label="sheet.texts.typeName"
    :placeholder="sheet.texts.typeName"
    :value="model?.typed ?? ''"
    autocomplete="name"
    :aria-describedby="described"
    :aria-invalid="invalid ? 'true' : undefined"
    :aria-required="required || undefined"
    @input="model = { typed: ($event.target as HTMLInputElement).value }"
  />
  <template v-else>
    <p v-if="model?.file">{{ model.file.name }}</p>
    <input
      type="file"
      accept="image/jpeg,image/png"
      :aria-label="sheet.texts.upload"
      :aria-describedby="described"
      :aria-invalid="invalid ? 'true' : undefined"
      :aria-required="required || undefined"
      @change="upload"
    />
  </template>
  <p v-if="problem" role="alert" class="mt-1 font-semibold text-madder">✕ {{ problem }}</p>
</template>
