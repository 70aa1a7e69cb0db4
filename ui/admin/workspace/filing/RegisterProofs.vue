<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { ProofSource, RegisterFile } from '../../../shared/types'
import { api, data } from '../../api'
import { asMoment } from '../../times'
import { useIntake } from '../intake'
import { useProof } from '../proof'

/** The line that answers have in each running register, and the files as they were written last. */
const selected = defineModel<number | undefined>('selected')
const props = defineProps<{ answers: ProofSource; called: (key: string) => string }>()
const { intake, design } = useIntake()
const { proof, problem } = useProof(
  () => (design.value?.registers?.length ? { design: design.value, key: '', ...props.answers } : undefined),
  (q) => data(api.POST('/api/proofs/registers', { body: q })),
)
const files = ref<RegisterFile[]>([])
onMounted(async () => {
  try {
    files.value = await data(api.GET('/api/intakes/{id}/registers', { params: { path: { id: intake.value!.id } } }))
  } catch {
    // Who only designs sees no files.
  }
})
const of = (key: string) => files.value.filter((f) => f.register === key)
</script>

<template>
  <p v-if="problem" role="alert" class="mt-3 font-semibold text-madder">✕ {{ problem }}</p>
  <template v-if="design?.registers?.length">
    <section
      v-for="(p, i) in proof ?? []"
      :key="p.key"
      class="mx-auto mt-5 max-w-[640px] border border-rule bg-white py-3"
      :class="{ 'outline-2 -outline-offset-2 outline-amber': selected === i }"
      data-register-proof
    >
      <h3 class="px-5 text-base font-normal">
        <button type="button" class="text-left" @click="selected = i">
          <span class="block text-[13px] text-soft">{{ called(p.to) }}</span>
          <span class="font-semibold">{{ p.path }}</span>
        </button>
      </h3>
      <div class="mt-2 overflow-x-auto px-5" tabindex="0">
        <table class="ledger text-[13px]">
          <thead>
            <tr>
              <th v-for="(h, n) in p.heads" :key="n" scope="col" class="border border-rule px-2 py-1 text-left">
                {{ h }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-if="p.line.length">
              <td v-for="(c, n) in p.line" :key="n" class="max-w-[220px] truncate border border-rule px-2 py-1">
                {{ c }}
              </td>
            </tr>
            <tr v-else>
              <td :colspan="p.heads.length" class="border border-rule px-2 py-1 text-soft">
                {{ $t('filing.noLine') }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <ul class="mt-2 px-5 text-[13px]">
        <li v-for="f in of(p.key)" :key="f.path">
          <a v-if="f.link" class="link" :href="f.link" target="_blank" rel="noopener">{{ f.path }}</a>
          <span v-else>{{ f.path }}</span>
          <span class="text-soft">
            · {{ $t('filing.lines', { n: f.lines }, f.lines) }} ·
            {{ $t('filing.written', { when: asMoment(f.written) }) }}</span
          >
          <span v-if="f.left" class="block text-ochre">{{ $t('filing.left', { path: f.left }) }}</span>
        </li>
        <li v-if="!of(p.key).length" class="text-soft">{{ $t('filing.notWritten') }}</li>
      </ul>
    </section>
  </template>
</template>
