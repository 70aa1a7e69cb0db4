<script setup lang="ts">
import { computed, ref } from 'vue'
import { useIntake } from '../intake'

const desk = useIntake()
const { design, intake, findings } = desk
const address = computed(() => `${location.origin}/f/${design.value?.slug}`)
const copied = ref(false)
const faults = computed(() => findings.value.filter((f) => f.level === 'fault').length)
async function copy() {
  await navigator.clipboard.writeText(address.value)
  copied.value = true
}
</script>

<template>
  <section class="grow bg-sheet px-6 py-6" aria-label="Opening">
    <div class="grid max-w-[760px] gap-5">
      <label>
        <span class="mb-1 block font-semibold">Name of the intake</span>
        <input v-model="design!.name" class="entry max-w-[420px]" />
      </label>
      <label>
        <span class="mb-1 block font-semibold">Last part of the address</span>
        <input v-model="design!.slug" class="entry max-w-[420px]" spellcheck="false" />
      </label>
      <label>
        <span class="mb-1 block font-semibold">Numbers of submissions</span>
        <input v-model="design!.number" class="entry max-w-[420px]" spellcheck="false" />
        <span class="block text-soft"
          >{n:5} is the running number with five digits; with {year} it begins again each year.</span
        >
      </label>
      <div class="border-t border-rule pt-5">
        <h2 class="mb-2 text-[18px]">
          {{
            intake!.state === 'open'
              ? 'The intake is open'
              : intake!.state === 'closed'
                ? 'The intake is closed'
                : 'The intake was not opened yet'
          }}
        </h2>
        <template v-if="intake!.version">
          <p class="mb-3">
            Respondents find version {{ intake!.version }} at
            <a class="link" :href="`/f/${design!.slug}`" target="_blank" rel="noopener" data-public-link>{{
              address
            }}</a>
            <button class="link ml-3" @click="copy">Copy the address</button>
            <span role="status" class="ml-2 text-pine">{{ copied ? '● Copied' : '' }}</span>
          </p>
        </template>
        <p v-if="faults" class="mb-3 font-semibold text-madder">
          ✕ {{ faults }} to mend before it can be opened; they are listed below.
        </p>
        <p v-else-if="intake!.changed" class="mb-3 text-ochre">◐ There are changes that respondents do not see yet.</p>
        <div class="flex flex-wrap gap-3">
          <button
            v-if="intake!.state !== 'open'"
            class="button button-main"
            :disabled="faults > 0"
            @click="desk.setOpen(true)"
          >
            Open the intake
          </button>
          <button
            v-else-if="intake!.changed"
            class="button button-main"
            :disabled="faults > 0"
            @click="desk.setOpen(true)"
          >
            Publish the changes
          </button>
          <button v-if="intake!.state === 'open'" class="button" @click="desk.setOpen(false)">Close the intake</button>
        </div>
      </div>
    </div>
  </section>
</template>
