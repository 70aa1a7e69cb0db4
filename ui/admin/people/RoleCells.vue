<script setup lang="ts">
import { computed } from 'vue'
import type { IntakeLine, PersonEntry } from '../../shared/types'
import ChoiceCell from '../parts/ChoiceCell.vue'
import ComboChoice from '../parts/ComboChoice.vue'
import ListChoice from '../parts/ListChoice.vue'
import SettingCell from '../parts/SettingCell.vue'
import { roles, rolesOnIntakes } from './people'

/** What somebody is in the house, and besides on single intakes. */
const entry = defineModel<PersonEntry>({ required: true })
const props = defineProps<{ intakes: IntakeLine[] }>()
const free = computed(() =>
  props.intakes
    .filter((i) => !entry.value.intakes.some((x) => x.intake === i.id))
    .map((i) => ({ value: String(i.id), words: i.name })),
)
const nameOf = (id: number) => props.intakes.find((i) => i.id === id)?.name ?? `intake ${id}`
function add(id: string) {
  if (id) entry.value = { ...entry.value, intakes: [...entry.value.intakes, { intake: Number(id), role: 'staff' }] }
}
function set(id: number, role: 'owner' | 'designer' | 'staff' | 'auditor') {
  entry.value = {
    ...entry.value,
    intakes: entry.value.intakes.map((x) => (x.intake === id ? { intake: id, role } : x)),
  }
}
function drop(id: number) {
  entry.value = { ...entry.value, intakes: entry.value.intakes.filter((x) => x.intake !== id) }
}
</script>

<template>
  <ChoiceCell
    :label="$t('people.house')"
    :options="roles"
    :model-value="entry.role"
    @update:model-value="entry = { ...entry, role: $event }"
  />
  <SettingCell v-if="entry.role !== 'owner'" :label="$t('people.besidesSingleIntakes')" full>
    <ul v-if="entry.intakes.length" class="mb-2 grid gap-1">
      <li v-for="x in entry.intakes" :key="x.intake" class="flex flex-wrap items-center gap-x-3">
        <span class="min-w-0 grow truncate">{{ nameOf(x.intake) }}</span>
        <span class="w-[130px]"
          ><ListChoice
            :label="$t('people.role', { nameOf: nameOf(x.intake) })"
            :options="
              rolesOnIntakes as { value: 'owner' | 'designer' | 'staff' | 'auditor'; words: string; note: string }[]
            "
            :model-value="x.role"
            @update:model-value="set(x.intake, $event)"
        /></span>
        <button type="button" class="link text-[13px]" @click="drop(x.intake)">
          {{ $t('people.takeOut') }}<span class="sr-only"> {{ nameOf(x.intake) }}</span>
        </button>
      </li>
    </ul>
    <ComboChoice
      v-if="free.length"
      :key="entry.intakes.length"
      model-value=""
      :label="$t('people.addIntake')"
      :placeholder="$t('people.addIntakeName')"
      :options="free"
      @update:model-value="add"
    />
  </SettingCell>
</template>
