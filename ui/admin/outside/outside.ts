import { computed, ref, shallowRef } from 'vue'
import type { TrialPart } from '../../shared/types'
import { Refused } from '../api'
import { useLoad } from '../load'
import { asDay } from '../times'
import { t } from '../words'
import { keyFor } from './keys'

/** A service outside that the house uses, as its settings say. */
interface Service {
  key: string
  name: string
}

/** What the list says of one. */
interface Line {
  secret: boolean
  waiting: number
  reason?: string
  tried?: string
  failedAt?: string
  failedFor?: string
}

/**
 * Services of one sort: the list of them, the one that is unfolded with what was changed of it, and what is done with it. What was typed
 * stays until it is kept or left on purpose.
 */
export function useOutside<T extends Service, L extends Line>(of: {
  list: () => Promise<L[]>
  settings: (line: L) => T
  set: (settings: T, secret?: string, second?: string) => Promise<unknown>
  remove: (key: string) => Promise<unknown>
  attempt: (key: string) => Promise<TrialPart[]>
}) {
  const { value: lines, problem, load, run } = useLoad(of.list)
  const drafts = shallowRef<ReadonlyMap<string, T>>(new Map())
  const made = shallowRef<string[]>([]) // drafts of what is not kept yet, by the keys they have until then
  const secrets = ref<Record<string, string>>({})
  const errors = ref<Record<string, string>>({})
  const parts = ref<Record<string, TrialPart[]>>({})
  const open = ref<string>()
  const busy = ref<'keeping' | 'trying'>()

  const all = computed(() => [
    ...(lines.value ?? []).map((line) => ({ line, settings: of.settings(line), key: of.settings(line).key })),
    ...made.value.map((key) => ({ line: undefined, settings: drafts.value.get(key) as T, key })),
  ])
  const draft = (key: string) => drafts.value.get(key)
  const change = (key: string, settings: T) => (drafts.value = new Map(drafts.value).set(key, settings))

  function unfold(key: string) {
    errors.value = {}
    if (open.value === key) {
      open.value = undefined
      return
    }
    open.value = key
    const known = all.value.find((x) => x.key === key)
    if (known && !drafts.value.has(key)) change(key, { ...known.settings })
  }
  function add(settings: Omit<T, 'key'>) {
    const key = `new ${made.value.length + 1}`
    change(key, { ...settings, key } as T)
    made.value = [...made.value, key]
    open.value = key
  }
  function leave(key: string) {
    drafts.value = new Map([...drafts.value].filter(([of]) => of !== key))
    secrets.value = { ...secrets.value, [key]: '', [second(key)]: '' }
    made.value = made.value.filter((x) => x !== key)
    open.value = undefined
    errors.value = {}
  }
  /** Keeps what was changed and gives the key under which it is kept, or nothing. */
  async function keep(key: string): Promise<string | undefined> {
    const settings = draft(key)
    if (!settings) return key
    const isNew = made.value.includes(key)
    const taken = all.value.map((x) => x.key)
    const kept = isNew ? { ...settings, key: keyFor(settings.name, taken) } : settings
    busy.value = 'keeping'
    errors.value = {}
    const done = await run(async () => {
      try {
        await of.set(kept, secrets.value[key] || undefined, secrets.value[second(key)] || undefined)
      } catch (e) {
        if (e instanceof Refused)
          errors.value = Object.fromEntries(
            (e.problem.findings ?? []).map((f) => [f.path.slice(f.path.indexOf('/') + 1), f.message]),
          )
        throw e
      }
    })
    busy.value = undefined
    if (!done) return undefined
    leave(key)
    await load()
    open.value = kept.key
    change(kept.key, { ...kept })
    return kept.key
  }
  async function attempt(key: string) {
    const kept = await keep(key)
    if (!kept) return
    busy.value = 'trying'
    await run(async () => (parts.value[kept] = await of.attempt(kept)))
    busy.value = undefined
    await load()
    const known = all.value.find((x) => x.key === kept)
    if (known) change(kept, { ...known.settings }) // a trial may have met a host key
  }
  async function remove(key: string) {
    if (made.value.includes(key)) return leave(key)
    if (await run(() => of.remove(key))) {
      leave(key)
      await load()
    }
  }
  return {
    all,
    loaded: computed(() => !!lines.value),
    open,
    draft,
    secrets,
    errors,
    parts,
    problem,
    busy,
    unfold,
    change,
    add,
    keep,
    attempt,
    remove,
  }
}

/** Under which the second password of a service is held, where it has two. */
export const second = (key: string) => `${key} 2`

/** How a service stands, by what waits for it and by its last trial; own ones come with the house and need none. */
export function standing(line: Line | undefined, own: boolean): { mark: string; words: string; tone: string } {
  if (!line) return { mark: '○', words: t('outside.notKeptYet'), tone: 'text-slate' }
  const tone = 'font-semibold text-ochre'
  if (line.reason)
    return { mark: '◐', words: line.waiting ? t('outside.waits', line.waiting) : t('outside.doesNotAnswer'), tone }
  if (line.failedFor) return { mark: '◐', words: t('outside.triedFailed', { day: asDay(line.tried!) }), tone }
  if (!line.tried && !own) return { mark: '○', words: t('outside.notTried'), tone: 'text-slate' }
  return { mark: '●', words: t('outside.ready'), tone: 'text-pine' }
}
