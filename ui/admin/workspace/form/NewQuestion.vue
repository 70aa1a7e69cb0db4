<script setup lang="ts">
import { useTemplateRef } from 'vue'

/** The line in which a question is typed or a list of them pasted; it stands where the questions go. */
defineProps<{ number: number; kind: string; between?: boolean }>()
const typed = defineModel<string>({ required: true })
const emit = defineEmits<{ add: []; leave: []; pasteLines: [text: string] }>()
const area = useTemplateRef<HTMLTextAreaElement>('area')
defineExpose({ focus: () => area.value?.focus() })

function paste(e: ClipboardEvent) {
  const text = e.clipboardData?.getData('text/plain') ?? ''
  if (!text.trim().includes('\n')) return
  e.preventDefault()
  emit('pasteLines', text)
}
</script>

<template>
  <form
    class="grid grid-cols-[58px_1fr]"
    :class="between ? 'border-t border-amber-ink bg-amber-wash' : 'border-b border-faint'"
    @submit.prevent="emit('add')"
    @keydown.stop
  >
    <span class="ledger pt-2 pr-3 text-right text-amber-ink tabular-nums">{{ number }}</span>
    <div class="flex items-start gap-3 px-3.5 py-1.5 pr-4">
      <textarea
        ref="area"
        v-model="typed"
        rows="1"
        class="min-h-[24px] grow resize-none bg-transparent py-0.5 outline-offset-4"
        :aria-label="$t('form.newQuestion')"
        :placeholder="$t('form.typeQuestionPasteListThem')"
        @keydown.enter.exact.prevent="emit('add')"
        @keydown.esc="emit('leave')"
        @paste="paste"
      ></textarea>
      <span v-if="kind" class="shrink-0 text-[13px] text-soft" role="status">{{ kind }}</span>
      <button v-if="typed.trim()" class="link shrink-0">{{ $t('form.add') }}</button>
      <button v-if="between" type="button" class="link shrink-0" @click="emit('leave')">
        {{ $t('form.doneHere') }}
      </button>
    </div>
  </form>
</template>
