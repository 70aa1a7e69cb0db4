<script setup lang="ts">
import { ref, watch } from 'vue'
import type { IntakeLine, Person, PersonEntry } from '../../shared/types'
import EntryCell from '../parts/EntryCell.vue'
import SettingsGrid from '../parts/SettingsGrid.vue'
import { entryOf } from './people'
import RoleCells from './RoleCells.vue'

/** Somebody unfolded: what they are called and may, and their way in. What is changed is kept at once. */
const props = defineProps<{ person: Person; intakes: IntakeLine[] }>()
const emit = defineEmits<{ set: [entry: PersonEntry]; reinvite: []; signOut: []; remove: [] }>()
const entry = ref(entryOf(props.person))
watch(
  () => props.person,
  (p) => (entry.value = entryOf(p)),
)
function put(next: PersonEntry) {
  entry.value = next
  emit('set', next)
}
</script>

<template>
  <div class="grid max-w-[640px] gap-4">
    <SettingsGrid>
      <EntryCell
        :label="$t('people.name')"
        :model-value="entry.name"
        @update:model-value="put({ ...entry, name: $event })"
      />
      <RoleCells :model-value="entry" :intakes="intakes" @update:model-value="put" />
    </SettingsGrid>
    <p class="flex flex-wrap gap-x-6 gap-y-1">
      <button type="button" class="link" @click="emit('reinvite')">
        {{ person.state === 'active' ? $t('people.sendLetterChooseNewPassword') : $t('people.sendAnotherLetter') }}
      </button>
      <button v-if="person.state === 'active' && !person.self" type="button" class="link" @click="emit('signOut')">
        {{ $t('people.signThemOutEverywhere') }}
      </button>
      <button v-if="!person.self" type="button" class="link text-madder" @click="emit('remove')">
        {{ $t('people.letThemGo') }}
      </button>
    </p>
  </div>
</template>
