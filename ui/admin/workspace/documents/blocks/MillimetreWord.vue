<script setup lang="ts">
/** A length in millimetres inside a sentence. */
const length = defineModel<number | undefined>({ required: true })
const props = defineProps<{ label: string; usual: number }>()
function set(e: Event) {
  const n = Number((e.target as HTMLInputElement).value.replace(',', '.'))
  length.value = n > 0 ? n : props.usual
}
</script>

<template>
  <input class="word w-[52px]" inputmode="decimal" :aria-label="label" :value="length ?? usual" @change="set" />
</template>
