<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { Place, Whereabouts } from '../../../shared/types'
import { api, data } from '../../api'
import { useIntake } from '../intake'
import { t } from '../../words'

/** Every field and all places that use it, faults first; each place leads there. */
defineEmits<{ go: [path: string] }>()
const { design } = useIntake()
const rows = ref<Whereabouts[]>([])
const uses: { use: Place['use']; words: string }[] = [
  { use: 'asked', words: t('form.asked') },
  { use: 'calculated', words: t('form.calculates') },
  { use: 'condition', words: t('form.decides') },
  { use: 'document', words: t('form.printed') },
  { use: 'notice', words: t('form.mailed') },
  { use: 'name', words: t('form.names') },
]
const load = useDebounceFn(async () => {
  if (design.value) rows.value = await data(api.POST('/api/designs/whereabouts', { body: { design: design.value } }))
}, 150)
watch(design, () => void load(), { deep: true, immediate: true })
const faults = computed(() => rows.value.filter((r) => r.fault).length)
const of = (r: Whereabouts, use: Place['use']) => r.places.filter((p) => p.use === use)
const usesOf = (r: Whereabouts) => uses.filter((u) => of(r, u.use).length)
</script>

<template>
  <div class="overflow-x-auto p-5">
    <p class="mb-3" :class="faults ? 'font-semibold text-madder' : 'text-pine'">
      {{ faults ? $t('form.noField', faults) : $t('form.everyNameHasField') }}
    </p>
    <table class="w-full border-collapse bg-sheet text-left text-[13px]">
      <thead class="text-soft">
        <tr class="border-b border-rule">
          <th scope="col" class="px-2 py-1.5 font-normal">{{ $t('form.field') }}</th>
          <th scope="col" class="px-2 font-normal">{{ $t('form.used') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="r in rows"
          :key="r.name"
          class="border-b border-faint align-top"
          :class="{ 'bg-madder-wash': r.fault }"
        >
          <th scope="row" class="px-2 py-1.5 font-semibold">
            {{ r.fault ? `✕ ${r.name}` : r.label || r.name }}
            <span class="block font-mono font-normal text-soft">{{ r.name }}</span>
          </th>
          <td class="px-2 py-1.5">
            <p v-for="u in usesOf(r)" :key="u.use" class="flex items-baseline gap-3">
              <span class="w-[68px] shrink-0 text-soft">{{ u.words }}</span>
              <span class="flex min-w-0 flex-wrap gap-x-3">
                <button
                  v-for="(p, i) in of(r, u.use)"
                  :key="p.path + i"
                  type="button"
                  class="link text-left"
                  @click="$emit('go', p.path)"
                >
                  {{ p.words }}
                </button>
              </span>
            </p>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!rows.length" class="text-soft">{{ $t('form.hereWillStandEachField') }}</p>
  </div>
</template>
