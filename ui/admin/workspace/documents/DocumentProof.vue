<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import type { PDFDocumentProxy } from 'pdfjs-dist'
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { DocumentProof } from '../../../shared/types'
import { openPdf, paintPage } from '../../../shared/pdf'

/** The real PDF, page under page, its blocks outlined on hover and picked by a click; by keyboard they are the script’s lines. */
const props = defineProps<{
  proof: DocumentProof
  marked?: string | undefined
  zoom: number
  overview?: boolean
  /** Something is being put on the pages: clicks and arrow keys move it. */
  placing?: boolean
}>()
const emit = defineEmits<{
  pick: [block: string]
  put: [page: number, x: number, y: number]
  nudge: [dx: number, dy: number]
}>()

const root = useTemplateRef<HTMLElement>('root')
const { width: room } = useElementSize(root)
const pdf = shallowRef<PDFDocumentProxy>()
const problem = ref('')
const thumb = 120 // CSS pixels a page is wide in the overview
const width = computed(() =>
  props.overview ? thumb : Math.max(160, Math.floor(Math.min(room.value, 900) * props.zoom)),
)
/** Pages may be of several sizes: a wide table stands on its side. Those of added files have no size here. */
const sheet = (page: number) => props.proof.sheets[page - 1] ?? props.proof.sheets[0] ?? { width: 595, height: 842 }
const scale = (page: number) => width.value / sheet(page).width

const words = (e: unknown) => (e instanceof Error ? e.message : String(e))

let painting = 0
async function paint() {
  const mine = ++painting
  await nextTick()
  if (!pdf.value || !room.value) return
  const canvases = [...(root.value?.querySelectorAll('canvas') ?? [])].slice(0, pdf.value.numPages)
  const pages = canvases.map((canvas, i) => ({ canvas, number: i + 1, seen: inSight(canvas) }))
  let said = false
  const told = () => {
    if (!said) root.value?.setAttribute('data-painted', String(mine))
    said = true
  }
  // Pages in sight first: they are what somebody who types looks at.
  for (const p of [...pages.filter((x) => x.seen), ...pages.filter((x) => !x.seen)]) {
    if (mine !== painting) return
    if (!p.seen) told()
    try {
      await paintPage(pdf.value, p.number, p.canvas, width.value)
    } catch (e) {
      // A newer proof closes the file that is being painted; only the newest may complain.
      if (mine === painting) problem.value = words(e)
      return
    }
  }
  told()
}
function inSight(canvas: HTMLCanvasElement) {
  const { top, bottom } = canvas.getBoundingClientRect()
  return bottom > 0 && top < window.innerHeight
}
watch(
  () => props.proof.pdf,
  async (base64) => {
    try {
      const next = await openPdf(base64)
      if (base64 !== props.proof.pdf) return void next.loadingTask.destroy()
      const last = pdf.value
      pdf.value = next
      problem.value = ''
      const painted = paint()
      void last?.loadingTask.destroy()
      await painted
    } catch (e) {
      if (base64 === props.proof.pdf) problem.value = words(e)
    }
  },
  { immediate: true },
)
watch(width, paint)

watch([() => props.marked, () => room.value > 0], async ([block]) => {
  await nextTick()
  if (block) root.value?.querySelector(`[data-block="${CSS.escape(block)}"]`)?.scrollIntoView({ block: 'nearest' })
})
/** Points in a millimetre. */
const points = 72 / 25.4
function put(e: MouseEvent, page: number) {
  if (!props.placing) return
  const at = (e.currentTarget as HTMLElement).getBoundingClientRect()
  emit('put', page, (e.clientX - at.left) / scale(page) / points, (e.clientY - at.top) / scale(page) / points)
}
const steps: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function keys(e: KeyboardEvent) {
  const step = steps[e.key]
  if (!props.placing || !step || e.altKey || e.ctrlKey || e.metaKey) return
  e.preventDefault()
  const far = e.shiftKey ? 5 : 0.5
  emit('nudge', step[0] * far, step[1] * far)
}
const onPage = (page: number) => props.proof.placements.filter((p) => p.page === page)
const px = (v: number, page: number) => `${v * scale(page)}px`
</script>

<template>
  <div ref="root" data-document-proof :class="overview ? 'flex flex-wrap content-start gap-x-4' : 'overflow-x-auto'">
    <p v-if="problem" role="alert" class="text-madder">✕ {{ problem }}</p>
    <div
      v-for="n in room ? proof.pages : 0"
      :key="n"
      class="relative mb-5 border border-rule bg-white"
      :class="{ 'mx-auto': !overview, 'cursor-crosshair': placing }"
      :tabindex="placing ? 0 : undefined"
      :role="placing ? 'group' : undefined"
      :aria-label="placing ? $t('documents.page', { n, pages: proof.pages }) : undefined"
      @click="put($event, n)"
      @keydown="keys"
      :style="{ width: `${width}px`, height: px(sheet(n).height, n) }"
    >
      <canvas
        class="absolute inset-0 size-full"
        :aria-label="$t('documents.page', { n, pages: proof.pages })"
        role="img"
      ></canvas>
      <div
        v-for="(p, i) in onPage(n)"
        :key="i"
        class="absolute cursor-pointer border"
        :class="marked === p.block ? 'border-2 border-amber' : 'border-transparent hover:border-edge'"
        :style="{
          left: px(p.x - 4, n),
          top: px(p.y - 2, n),
          width: px(p.w + 8, n),
          height: px(p.h + 4, n),
        }"
        :data-block="p.block"
        @click.stop="$emit('pick', p.block)"
        aria-hidden="true"
      ></div>
    </div>
  </div>
</template>
