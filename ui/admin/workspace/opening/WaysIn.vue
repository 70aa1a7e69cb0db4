<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, data, octets, Refused, words } from '../../api'
import { useIntake } from '../intake'
import FileEntry from '../../parts/FileEntry.vue'

/** The ways by which respondents reach the form: its address, its code, and two lines for another site's page. */
const { intake, id, may } = useIntake()
const address = computed(() => `${location.origin}/f/${intake.value?.address}`)
const snippet = computed(
  () => `<div data-amberseal="${address.value}"></div>\n<script src="${location.origin}/embed.js" defer><` + `/script>`,
)
const reading = ref('')
const refused = ref<string[]>([])
/** A copy that was filled on screen becomes a submission. */
async function take(file: File) {
  reading.value = 'Reading it'
  refused.value = []
  try {
    const got = await data(
      api.POST('/api/intakes/{id}/copies', {
        params: { path: { id } },
        ...octets(file),
      }),
    )
    reading.value = `● Taken in as ${got.number}`
  } catch (err) {
    reading.value = ''
    refused.value = [words(err)]
    if (err instanceof Refused)
      refused.value.push(...(err.problem.findings ?? []).map((f) => `${f.path}: ${f.message}`))
  }
}
const copied = ref('')
async function copy(what: string, text: string) {
  await navigator.clipboard.writeText(text)
  copied.value = what
}
</script>

<template>
  <div>
    <h2 class="mb-2 text-[18px]">Ways in</h2>
    <p v-if="!intake!.version" class="text-soft">
      Once it is open, its address, its code and the lines for other sites stand here.
    </p>
    <template v-else>
      <p class="mb-3">
        Version {{ intake!.version }} is at
        <a class="link break-all" :href="`/f/${intake!.address}`" target="_blank" rel="noopener" data-public-link>{{
          address
        }}</a>
        <button class="link ml-3" @click="copy('address', address)">Copy the address</button>
        <span role="status" class="ml-2 text-pine">{{ copied === 'address' ? '● Copied' : '' }}</span>
      </p>
      <p class="mb-3">
        <a class="link" :href="`/f/${intake!.address}`" target="_blank" rel="noopener">Enter a submission yourself</a>
        <span class="text-soft"> for somebody who called or came by</span>
      </p>
      <div class="flex flex-wrap items-start gap-5">
        <img
          :src="`/api/intakes/${id}/code.svg`"
          alt="QR code of the form’s address"
          class="size-[112px] border border-rule"
        />
        <div class="min-w-0 grow basis-[240px]">
          <p class="mb-1">
            The code, to print: <a class="link" :href="`/api/intakes/${id}/code.svg`" download>SVG</a> ·
            <a class="link" :href="`/api/intakes/${id}/code.png`" download>PNG</a>
          </p>
          <p class="mb-1">
            On paper:
            <a class="link" :href="`/api/intakes/${id}/blank.pdf`" target="_blank" rel="noopener">blank copy</a> ·
            <a class="link" :href="`/api/intakes/${id}/blank.pdf?fillable=1`" target="_blank" rel="noopener"
              >to fill on screen</a
            >
          </p>
          <p v-if="may('handle')" class="mb-1">
            <FileEntry label="Take in a filled copy" accept="application/pdf" plain @file="take" />
            <span role="status" class="text-pine">{{ reading }}</span>
          </p>
          <ul v-if="refused.length" role="alert" class="mb-1 text-madder">
            <li v-for="r in refused" :key="r">✕ {{ r }}</li>
          </ul>
          <p>
            In another site’s page, these two lines (<a
              class="link"
              :href="`/embedded/${intake!.address}`"
              target="_blank"
              rel="noopener"
              >see it working</a
            >):
          </p>
        </div>
      </div>
      <pre class="mt-2 overflow-x-auto border border-rule bg-bed p-2 text-[12px]" tabindex="0">{{ snippet }}</pre>
      <button class="link text-[13px]" @click="copy('lines', snippet)">Copy the lines</button>
      <span role="status" class="ml-2 text-pine">{{ copied === 'lines' ? '● Copied' : '' }}</span>
    </template>
  </div>
</template>
