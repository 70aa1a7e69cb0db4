<script setup lang="ts">
import ActionButton from '../../parts/ActionButton.vue'
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { computed, ref } from 'vue'
import type { Mend, Place } from '../../../shared/types'
import { api, data, words } from '../../api'
import { useNames } from '../formula/names'
import { useIntake } from '../intake'
import ListChoice from '../../parts/ListChoice.vue'
import { t } from '../../words'

/** A field that is used elsewhere is about to go: every place is shown and mended as chosen. */
const props = defineProps<{ name: string; label: string; places: Place[] }>()
const emit = defineEmits<{ done: [removed: boolean] }>()
const { design, replace } = useIntake()
const names = useNames(() => '')
const others = computed(() => names.value.filter((n) => n.name !== props.name && !n.name.startsWith(`${props.name}.`)))
const mends = ref<Mend[]>(props.places.map((p) => ({ path: p.path, do: 'remove', with: '' })))
const problem = ref('')

async function remove() {
  try {
    replace(
      await data(
        api.POST('/api/designs/remove', { body: { design: design.value!, name: props.name, mends: mends.value } }),
      ),
    )
    emit('done', true)
  } catch (e) {
    problem.value = words(e)
  }
}
function setDo(m: Mend, how: string) {
  m.do = how as Mend['do']
  m.with = how === 'field' ? (others.value[0]?.name ?? '') : ''
}
const whole = (p: Place) =>
  p.path.endsWith('/formula')
    ? t('form.takeFormulaOut')
    : p.path.endsWith('/when') || p.path.endsWith('/requiredWhen')
      ? t('form.takeConditionOut')
      : t('form.takeOutThere')
</script>

<template>
  <Dialog :open="true" class="relative z-50" @close="emit('done', false)">
    <div class="fixed inset-0 bg-ink/40" aria-hidden="true"></div>
    <div class="fixed inset-0 overflow-y-auto p-4">
      <DialogPanel class="mx-auto mt-[8vh] max-w-[720px] border-t-4 border-ink bg-sheet px-7 py-6">
        <DialogTitle class="mb-1 text-[20px]">{{ $t('form.remove', { label }) }}</DialogTitle>
        <p class="mb-4 text-soft">{{ $t('form.usedSayWhatBecomesEach', places.length) }}</p>
        <ul>
          <li
            v-for="(p, i) in places"
            :key="p.path"
            class="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-faint py-2"
          >
            <span class="min-w-[240px] grow">{{ p.words }}</span>
            <ListChoice
              :model-value="mends[i]!.do"
              @update:model-value="setDo(mends[i]!, $event)"
              :label="$t('form.whatDo', { words: p.words })"
              inline
              :options="[
                { value: 'remove', words: whole(p) },
                { value: 'field', words: $t('form.putAnotherFieldThere') },
                { value: 'text', words: $t('form.putFixedWordsThere') },
              ]"
            />
            <ListChoice
              v-if="mends[i]!.do === 'field'"
              v-model="mends[i]!.with"
              :label="$t('form.otherField', { words: p.words })"
              inline
              :options="others.map((n) => ({ value: n.name, words: n.label }))"
            />
            <input
              v-if="mends[i]!.do === 'text'"
              v-model="mends[i]!.with"
              class="word w-[160px]"
              :aria-label="$t('form.words', { words: p.words })"
              :placeholder="$t('form.words2')"
            />
          </li>
        </ul>
        <p v-if="problem" role="alert" class="mt-3 font-semibold text-madder">✕ {{ problem }}</p>
        <div class="mt-5 flex gap-3">
          <ActionButton main @click="remove">{{ $t('form.removeMendThesePlaces') }}</ActionButton>
          <ActionButton @click="emit('done', false)">{{ $t('form.leave') }}</ActionButton>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
