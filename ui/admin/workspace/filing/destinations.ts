import { computed, onMounted, ref } from 'vue'
import { api, data } from '../../api'
import { t } from '../../words'

/** The key of the destination that each house has by itself. */
export const cabinet = 'cabinet'

/** The house's destinations, and those that a design names and the house has not. */
export function useDestinations(named: () => string[]) {
  const known = ref<{ key: string; name: string }[]>([])
  onMounted(async () => {
    try {
      known.value = (await data(api.GET('/api/destinations'))).map((l) => l.destination)
    } catch {
      // Those that rules name are shown by their keys.
    }
  })
  const destinations = computed(() => [
    ...known.value,
    ...[...new Set(named())]
      .filter((key) => !known.value.some((d) => d.key === key))
      .map((key) => ({ key, name: t('filing.noSuchDestination', { key }) })),
  ])
  const called = (key: string) => destinations.value.find((d) => d.key === key)?.name ?? key
  return { destinations, called }
}
