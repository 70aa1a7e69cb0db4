<script setup lang="ts">
import ActionButton from '../../parts/ActionButton.vue'
import { ref } from 'vue'
import FormSheet from '../../../shared/sheet/FormSheet.vue'
import { provideSheet } from '../../../shared/sheet/sheet'
import { session } from '../../session'
import { useIntake } from '../intake'
import { useTrial } from './trial'

/** The form as a respondent sees it, on a phone or a desk; answers typed here are a trial that leaves no trace. */
const props = defineProps<{ width: 'phone' | 'desk'; marked: string | undefined; currency: string }>()
defineEmits<{ pick: [name: string] }>()
const { design, trial } = useIntake()
const t = useTrial(() => props.currency)
provideSheet(t.sheet)
const { said, sent, problems, labelOf } = t
const rules = ref(false)
</script>

<template>
  <div class="p-5">
    <div
      class="mx-auto border-t-4 border-ink bg-sheet px-7 py-6 text-[15px]"
      :class="width === 'phone' ? 'proof-phone max-w-[360px]' : 'max-w-[620px]'"
      data-proof
    >
      <p class="text-soft">{{ session?.house }}</p>
      <h2 class="mb-5 text-[24px] leading-tight">{{ design!.name }}</h2>
      <p v-if="design!.form.intro" class="mb-6 whitespace-pre-line">{{ design!.form.intro }}</p>
      <FormSheet v-model="trial" :fields="design!.form.fields" proof :marked="marked" @pick="$emit('pick', $event)" />
      <p v-if="!design!.form.fields.length" class="text-soft">{{ $t('form.formWillStandHereType') }}</p>
    </div>
    <div class="mx-auto mt-4 max-w-[620px]" aria-live="polite">
      <div class="flex flex-wrap gap-x-5 gap-y-2">
        <ActionButton @click="sent = true">{{ $t('form.trySending') }}</ActionButton>
        <ActionButton v-if="Object.keys(trial).length" @click="trial = {}">
          {{ $t('form.emptyTrial') }}
        </ActionButton>
        <button v-if="said.length" type="button" class="link" :aria-expanded="rules" @click="rules = !rules">
          {{ $t('form.hiddenRules', { said: said.length }) }}
        </button>
      </div>
      <p v-if="sent && !problems.length" class="mt-2 font-semibold text-pine">{{ $t('form.wouldTaken') }}</p>
      <ul v-else-if="sent" class="mt-2">
        <li v-for="p in problems" :key="p.path" class="text-madder">✕ {{ labelOf(p.path) }}: {{ p.message }}</li>
      </ul>
      <ul v-if="rules" class="mt-2 text-soft" data-rules>
        <li v-for="s in said" :key="s.path">‖ {{ s.text }}</li>
      </ul>
    </div>
  </div>
</template>
