import { ref } from 'vue'
import type { IntakeLine, Person, PersonEntry, Role } from '../../shared/types'
import { api, data, words } from '../api'
import { asDay } from '../times'

/** The roles, with what they may. */
export const roles: { value: Role; words: string; note: string }[] = [
  { value: 'owner', words: 'owner', note: 'everything, also who works here' },
  { value: 'designer', words: 'designer', note: 'makes intakes and opens them; reads no answers' },
  { value: 'staff', words: 'staff', note: 'receives and handles what comes in' },
  { value: 'auditor', words: 'auditor', note: 'reads everything and changes nothing' },
  { value: 'guest', words: 'guest', note: 'works on single intakes and sees no other' },
]
export const rolesOnIntakes = roles.filter((r) => r.value !== 'guest')

/** What can be said of somebody's way in, worst first. */
export function standing(p: Person): { mark: string; words: string; tone: string } {
  if (p.letter === 'failed' && p.state !== 'active')
    return { mark: '✕', words: `The letter did not go: ${p.reason ?? ''}`, tone: 'font-semibold text-madder' }
  if (p.state === 'lapsed')
    return { mark: '✕', words: 'The letter’s link has lapsed', tone: 'font-semibold text-madder' }
  if (p.state === 'invited') {
    const went = p.letter === 'sent' ? `Asked in on ${asDay(p.invited ?? '')}` : 'The letter waits to go'
    return { mark: '◐', words: went, tone: 'text-ochre' }
  }
  return { mark: '●', words: p.seen ? `Here on ${asDay(p.seen)}` : 'Never here yet', tone: 'text-soft' }
}

/** What is changed of somebody. */
export const entryOf = (p: Person): PersonEntry => ({
  name: p.name,
  role: p.role,
  intakes: p.intakes.map((x) => ({ ...x })),
})

/** Who works in the house, and what is done with them. */
export function usePeople() {
  const people = ref<Person[]>()
  const intakes = ref<IntakeLine[]>([])
  const problem = ref('')

  async function load() {
    try {
      ;[people.value, intakes.value] = await Promise.all([data(api.GET('/api/people')), data(api.GET('/api/intakes'))])
    } catch (e) {
      problem.value = words(e)
    }
  }
  /** Does something and reads again; it reports whether it was done. */
  async function change(deed: () => Promise<unknown>): Promise<boolean> {
    problem.value = ''
    try {
      await deed()
      await load()
      return true
    } catch (e) {
      problem.value = words(e)
      return false
    }
  }
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
