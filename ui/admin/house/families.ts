import { computed, onMounted, ref } from 'vue'
import type { House } from '../../shared/types'
import { api, data } from '../api'

/** The families that ship with the program. */
export const shipped = ['Literata', 'IBM Plex Sans']

export const familiesOf = (house: House | undefined) => [...shipped, ...(house?.fonts ?? []).map((f) => f.family)]

/** The families a document can be set in: those that ship with the program, and the house's own. */
export function useFamilies() {
  const house = ref<House>()
  onMounted(async () => {
    try {
      house.value = await data(api.GET('/api/house'))
    } catch {
      // The shipped ones remain.
    }
  })
  return computed(() => familiesOf(house.value))
}
