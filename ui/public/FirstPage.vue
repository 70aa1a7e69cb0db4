<script setup lang="ts">
import { onMounted, ref } from 'vue'

/** The first page of a document that was made, as a picture beside the link that opens it; nothing where it cannot be had. */
const props = defineProps<{ href: string; label: string }>()
const canvas = ref<HTMLCanvasElement>()
const shown = ref(false)
const wide = 220

/** A document is made right after sending: it may be asked for a moment too early. */
async function fetched(tries: number): Promise<ArrayBuffer | undefined> {
  const answer = await fetch(props.href)
  if (answer.ok && answer.headers.get('Content-Type')?.startsWith('application/pdf')) return answer.arrayBuffer()
  if (tries === 0) return undefined
  await new Promise((go) => setTimeout(go, 1500))
  return fetched(tries - 1)
}

onMounted(async () => {
  try {
    const [data, { openBytes, paintPage }] = await Promise.all([fetched(4), import('../shared/pdf')])
    if (!data || !canvas.value) return
    await paintPage(await openBytes(new Uint8Array(data)), 1, canvas.value, wide)
    shown.value = true
  } catch {
    shown.value = false // the link opens it all the same
  }
})
</script>

<template>
  <a v-show="shown" :href="href" target="_blank" rel="noopener" class="mb-3 inline-block" data-first-page>
    <canvas ref="canvas" role="img" :aria-label="label" class="max-w-full border border-rule shadow-sm"></canvas>
  </a>
</template>
