import { computed } from 'vue'
import type { Person, PersonEntry, Role } from '../../shared/types'
import { api, data } from '../api'
import { behind, everyIntake, useLoad } from '../load'
import { everything } from '../pages'
import { asDay } from '../times'
import { t } from '../words'

/** The roles, with what they may. */
export const roles: { value: Role; words: string; note: string }[] = [
  { value: 'owner', words: t('people.owner'), note: t('people.everythingAlsoWhoWorksHere') },
  { value: 'designer', words: t('people.designer'), note: t('people.makesIntakesOpensThemReads') },
  { value: 'staff', words: t('people.staff'), note: t('people.receivesHandlesWhatComes') },
  { value: 'auditor', words: t('people.auditor'), note: t('people.readsEverythingChangesNothing') },
  { value: 'guest', words: t('people.guest'), note: t('people.worksSingleIntakesSeesNo') },
]
/** A role, as people read it. */
export const roleWords = (role?: string) => roles.find((r) => r.value === role)?.words ?? ''

export const rolesOnIntakes = roles.filter((r) => r.value !== 'guest')

/** What can be said of somebody's way in, worst first. */
export function standing(p: Person): { mark: string; words: string; tone: string } {
  if (p.letter === 'failed' && p.state !== 'active')
    return {
      mark: '✕',
      words: t('people.letterDidNotGo', { reason: p.reason ?? '' }),
      tone: 'font-semibold text-madder',
    }
  if (p.state === 'lapsed')
    return { mark: '✕', words: t('people.lettersLinkHasLapsed'), tone: 'font-semibold text-madder' }
  if (p.state === 'invited') {
    const went = p.letter === 'sent' ? t('people.asked', { asDay: asDay(p.invited ?? '') }) : t('people.letterWaitsGo')
    return { mark: '◐', words: went, tone: 'text-ochre' }
  }
  return {
    mark: '●',
    words: p.seen ? t('people.here', { asDay: asDay(p.seen) }) : t('people.neverHereYet'),
    tone: 'text-soft',
  }
}

/** What is changed of somebody. */
export const entryOf = (p: Person): PersonEntry => ({
  name: p.name,
  role: p.role,
  intakes: p.intakes.map((x) => ({ ...x })),
})

/** Who works in the house, and what is done with them. */
export function usePeople() {
  const {
    value: known,
    problem,
    load,
    run,
  } = useLoad(() =>
    Promise.all([
      everything((cursor) => data(api.GET('/api/people', { params: { query: behind(cursor) } }))),
      everyIntake(),
    ]),
  )
  const people = computed(() => known.value?.[0])
  const intakes = computed(() => known.value?.[1] ?? [])
  /** Does something and reads again; it reports whether it was done. */
  const change = (deed: () => Promise<unknown>) =>
    run(async () => {
      await deed()
      await load()
    })
  const of = (id: number) => ({ params: { path: { id } } })
  return {
    people,
    intakes,
    problem,
    load,
    invite: (email: string, entry: PersonEntry) =>
      change(() => data(api.POST('/api/people', { body: { email, entry } }))),
    set: (id: number, entry: PersonEntry) =>
      change(() => data(api.PUT('/api/people/{id}', { ...of(id), body: entry }))),
    remove: (id: number) => change(() => data(api.DELETE('/api/people/{id}', of(id)))),
    reinvite: (id: number) => change(() => data(api.POST('/api/people/{id}/letter', of(id)))),
    signOut: (id: number) => change(() => data(api.DELETE('/api/people/{id}/sessions', of(id)))),
  }
}
