<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, data, octets, Refused, words } from '../../api'
import { useIntake } from '../intake'
import { useLocked } from '../../parts/locked'
import FileEntry from '../../parts/FileEntry.vue'
import { t } from '../../words'

/** The ways by which respondents reach the form: its address, its code, and two lines for another site's page. */
const { intake, id, may } = useIntake()
const locked = useLocked()
const sites = defineModel<string[]>('sites', { required: true })
function setSites(e: Event) {
  sites.value = (e.target as HTMLTextAreaElement).value.split(/\s+/).filter(Boolean)
}
const address = computed(() => `${location.origin}/f/${intake.value?.address}`)
const snippet = computed(
  () => `<div data-amberseal="${address.value}"></div>\n<script src="${location.origin}/embed.js" defer><` + `/script>`,
)
const reading = ref('')
const refused = ref<string[]>([])
/** A copy that was filled on screen becomes a submission. */
async function take(file: File) {
  reading.value = t('opening.reading')
  refused.value = []
  try {
    const got = await data(
      api.POST('/api/intakes/{id}/copies', {
        params: { path: { id } },
        ...octets(file),
      }),
    )
    reading.value = t('opening.takenAs', { number: got.number })
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
    <h2 class="mb-2 text-[18px]">{{ $t('opening.ways') }}</h2>
    <p v-if="!intake!.version" class="text-soft">{{ $t('opening.onceOpenAddressCodeLines') }}</p>
    <template v-else>
      <p class="mb-3">
        {{ $t('opening.version', { version: intake!.version }) }}
        <a class="link break-all" :href="`/f/${intake!.address}`" target="_blank" rel="noopener" data-public-link>{{
          address
        }}</a>
        <button class="link ml-3" @click="copy('address', address)">{{ $t('opening.copyAddress') }}</button>
        <span role="status" class="ml-2 text-pine">{{ copied === 'address' ? $t('opening.copied') : '' }}</span>
      </p>
      <p class="mb-3">
        <a class="link" :href="`/f/${intake!.address}`" target="_blank" rel="noopener">{{
          $t('opening.enterSubmissionYourself')
        }}</a>
        <span class="text-soft">{{ ' ' + $t('opening.somebodyWhoCalledCame') }}</span>
      </p>
      <div class="flex flex-wrap items-start gap-5">
        <img
          :src="`/api/intakes/${id}/code.svg`"
          :alt="$t('opening.qrCodeFormsAddress')"
          class="size-[112px] border border-rule"
        />
        <div class="min-w-0 grow basis-[240px]">
          <p class="mb-1">
            {{ $t('opening.codePrint') }}
            <a class="link" :href="`/api/intakes/${id}/code.svg`" download>{{ $t('opening.svg') }}</a> ·
            <a class="link" :href="`/api/intakes/${id}/code.png`" download>{{ $t('opening.png') }}</a>
          </p>
          <p class="mb-1">
            {{ $t('opening.paper') }}
            <a class="link" :href="`/api/intakes/${id}/blank.pdf`" target="_blank" rel="noopener">{{
              $t('opening.blankCopy')
            }}</a>
            ·
            <a class="link" :href="`/api/intakes/${id}/blank.pdf?fillable=1`" target="_blank" rel="noopener">{{
              $t('opening.fillScreen')
            }}</a>
          </p>
          <p v-if="may('handle')" class="mb-1">
            <FileEntry :label="$t('opening.takeFilledCopy')" accept="application/pdf" plain @file="take" />
            <span role="status" class="text-pine">{{ reading }}</span>
          </p>
          <ul v-if="refused.length" role="alert" class="mb-1 text-madder">
            <li v-for="r in refused" :key="r">✕ {{ r }}</li>
          </ul>
        </div>
      </div>
    </template>
    <h3 class="mt-4 mb-1 text-[16px]">{{ $t('opening.inAnotherSite') }}</h3>
    <label>
      <span class="mb-0.5 block text-[13px] text-soft">{{ $t('opening.sitesMayShowFormTheir') }}</span>
      <textarea
        class="entry"
        rows="2"
        spellcheck="false"
        :disabled="locked"
        :placeholder="$t('opening.httpsWwwPlaceExample')"
        :value="sites.join('\n')"
        @change="setSites"
      ></textarea>
    </label>
    <template v-if="intake!.version">
      <p v-if="!sites.length" class="mt-1 text-ochre">◐ {{ $t('opening.noSiteMayShowIt') }}</p>
      <p class="mt-2">
        {{ $t('opening.anotherSitesPageTheseTwo')
        }}<a class="link" :href="`/embedded/${intake!.address}`" target="_blank" rel="noopener">{{
          $t('opening.seeWorking')
        }}</a
        >):
      </p>
      <pre class="mt-2 overflow-x-auto border border-rule bg-bed p-2 text-[12px]" tabindex="0">{{ snippet }}</pre>
      <button class="link text-[13px]" @click="copy('lines', snippet)">{{ $t('opening.copyLines') }}</button>
      <span role="status" class="ml-2 text-pine">{{ copied === 'lines' ? $t('opening.copied') : '' }}</span>
    </template>
  </div>
</template>
