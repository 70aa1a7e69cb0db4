<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, data } from '../../api'
import { useLocked } from '../../parts/locked'
import ListChoice from '../../parts/ListChoice.vue'
import { t } from '../../words'
import { useIntake } from '../intake'

/** By which mail account of the house the notices of an intake go; only who may change the house sees which there are. */
const { design, mark } = useIntake()
const locked = useLocked()
const known = ref<{ key: string; name: string }[]>()
onMounted(async () => {
  try {
    known.value = (await data(api.GET('/api/accounts'))).filter((l) => !l.given).map((l) => l.account)
  } catch {
    // Which there are is not for everybody; what is set is shown by its key.
  }
})
const options = computed(() => {
  const set = design.value?.account
  const all = known.value ?? []
  return [
    { value: '', words: t('notices.accountRule') },
    ...all.map((a) => ({ value: a.key, words: a.name })),
    ...(set && !all.some((a) => a.key === set)
      ? [{ value: set, words: t('notices.noSuchAccount', { key: set }) }]
      : []),
  ]
})
function choose(key: string) {
  if (!design.value) return
  mark()
  if (key) design.value.account = key
  else delete design.value.account
}
</script>

<template>
  <p v-if="known && (options.length > 1 || design?.account)" class="px-3.5 pb-1 text-[13px] text-soft">
    {{ $t('notices.goBy') }}
    <ListChoice
      inline
      :model-value="design?.account ?? ''"
      :label="$t('notices.goBy')"
      :options="options"
      :disabled="locked"
      @update:model-value="choose"
    />
  </p>
</template>
