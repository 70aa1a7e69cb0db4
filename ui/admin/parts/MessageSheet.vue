<script setup lang="ts">
import { computed } from 'vue'
import { t } from '../words'

/** A message as its reader sees it. */
const props = defineProps<{
  from: string
  to: string[]
  copy?: string[]
  blind?: string[]
  replyTo?: string[]
  subject: string
  html: string
  attached: string[]
  problem?: string
}>()
defineEmits<{ pick: [part: 'to' | 'subject' | 'message' | 'attach'] }>()

// The server escapes every answer in it; its own styles, which mail needs and our content policy refuses, are left out.
const page = computed(() => {
  const plain = props.html
    .replace(/<style>[^]*?<\/style>/, '')
    .replace(/ style="[^"]*"/g, '')
    .replace(/ src="cid:([^"@]+)@[^"]*"/g, ' src="/api/pictures/$1"') // it came with the message; here it is the house's
  return new DOMParser().parseFromString(plain, 'text/html')
})
const others = computed(
  () =>
    [
      [t('parts.copy'), props.copy],
      [t('parts.blind'), props.blind],
      [t('parts.answersTo'), props.replyTo],
    ] as const,
)
const body = computed(() => page.value.querySelector('.words')?.innerHTML ?? '')
const part = (name: 'name' | 'foot') => page.value.querySelector(`.${name}`)?.textContent ?? ''
</script>

<template>
  <article class="border border-rule bg-white">
    <dl class="border-b border-rule px-5 py-3">
      <div class="flex gap-3">
        <dt class="w-[84px] shrink-0 text-soft">{{ $t('parts.from') }}</dt>
        <dd>{{ from }}</dd>
      </div>
      <div class="flex gap-3" @click="$emit('pick', 'to')">
        <dt class="w-[84px] shrink-0 text-soft">{{ $t('parts.to') }}</dt>
        <dd v-if="problem" class="font-semibold text-madder">✕ {{ problem }}</dd>
        <dd v-else>{{ to.join(', ') }}</dd>
      </div>
      <template v-for="[words, all] in others" :key="words">
        <div v-if="all?.length" class="flex gap-3" @click="$emit('pick', 'to')">
          <dt class="w-[84px] shrink-0 text-soft">{{ words }}</dt>
          <dd class="min-w-0 [overflow-wrap:anywhere]">{{ all.join(', ') }}</dd>
        </div>
      </template>
      <div class="flex gap-3" @click="$emit('pick', 'subject')">
        <dt class="w-[84px] shrink-0 text-soft">{{ $t('parts.subject') }}</dt>
        <dd class="font-semibold">{{ subject }}</dd>
      </div>
    </dl>
    <p class="bg-ink px-6 py-3 font-title text-[15px] font-semibold text-white">{{ part('name') }}</p>
    <div
      class="message-body px-6 py-5 font-title text-[15px] leading-relaxed"
      @click="$emit('pick', 'message')"
      v-html="body"
    ></div>
    <p v-if="part('foot')" class="px-6 pb-4 text-[12px] text-soft">{{ part('foot') }}</p>
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
