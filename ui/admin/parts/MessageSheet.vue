<script setup lang="ts">
import { computed } from 'vue'

/** A message as its reader sees it. */
const props = defineProps<{
  from: string
  to: string[]
  subject: string
  html: string
  attached: string[]
  problem?: string
}>()
defineEmits<{ pick: [part: 'to' | 'subject' | 'message' | 'attach'] }>()

// The server escapes every answer in it; its inline styles, which mail needs and our content policy refuses, are left out.
const body = computed(() => {
  const page = props.html.replace(/ style="[^"]*"/g, '')
  return new DOMParser().parseFromString(page, 'text/html').querySelector('div')?.innerHTML ?? ''
})
</script>

<template>
  <article class="border border-rule bg-white">
    <dl class="border-b border-rule px-5 py-3">
      <div class="flex gap-3">
        <dt class="w-[64px] text-soft">{{ $t('parts.from') }}</dt>
        <dd>{{ from }}</dd>
      </div>
      <div class="flex gap-3" @click="$emit('pick', 'to')">
        <dt class="w-[64px] text-soft">{{ $t('parts.to') }}</dt>
        <dd v-if="problem" class="font-semibold text-madder">✕ {{ problem }}</dd>
        <dd v-else>{{ to.join(', ') }}</dd>
      </div>
      <div class="flex gap-3" @click="$emit('pick', 'subject')">
        <dt class="w-[64px] text-soft">{{ $t('parts.subject') }}</dt>
        <dd class="font-semibold">{{ subject }}</dd>
      </div>
    </dl>
    <div
      class="message-body border-t-4 border-ink px-6 py-5 font-title text-[15px] leading-relaxed"
      @click="$emit('pick', 'message')"
      v-html="body"
    ></div>
    <ul
      v-if="attached.length"
      class="flex flex-wrap gap-2 border-t border-rule px-5 py-3"
      :aria-label="$t('parts.attached')"
      @click="$emit('pick', 'attach')"
    >
      <li v-for="a in attached" :key="a" class="border border-rule bg-bed px-3 py-1">{{ a }}</li>
    </ul>
  </article>
</template>
