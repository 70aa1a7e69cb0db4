import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data } from '../api'
import { t } from '../words'

/** A folder of a destination, as paths are written; all destinations where none is named. */
export interface Place {
  destination: string
  folder: string
}

/** The folder that a path lies in. */
export const folderOf = (path: string) => path.split('/').slice(0, -1).join('/')

/** The folders on the way to a place, from its destination on, each with its own name. */
export function wayTo(place: Place, called: (key: string) => string): { name: string; place: Place }[] {
  if (!place.destination) return []
  const names = place.folder ? place.folder.split('/') : []
  return [
    { name: called(place.destination), place: { destination: place.destination, folder: '' } },
    ...names.map((name, i) => ({
      name,
      place: { destination: place.destination, folder: names.slice(0, i + 1).join('/') },
    })),
  ]
}

/** Where a place is seen: its address holds it, so that it can be gone back to. */
export const linkTo = (place: Place) => ({
  path: '/cabinet',
  query: {
    ...(place.destination ? { at: place.destination } : {}),
    ...(place.folder ? { folder: place.folder } : {}),
  },
})

/** The place that the address names, and what destinations are called. */
export function usePlace() {
  const route = useRoute()
  const router = useRouter()
  const one = (v: unknown) => (typeof v === 'string' ? v : '')
  const place = computed<Place>(() => ({ destination: one(route.query.at), folder: one(route.query.folder) }))
  const known = ref<{ key: string; name: string }[]>([{ key: 'cabinet', name: t('cabinet.cabinet') }])
  onMounted(async () => {
    try {
      known.value = (await data(api.GET('/api/destinations'))).map((l) => l.destination)
    } catch {
      // Who may not see the destinations sees their keys.
    }
  })
  const called = (key: string) => known.value.find((d) => d.key === key)?.name ?? key
  return { place, called, go: (to: Place) => router.push(linkTo(to)) }
}
