import { useDebounceFn, useEventListener, useThrottleFn } from '@vueuse/core'
import { computed, inject, provide, ref, watch, type InjectionKey } from 'vue'
import { store } from '../../shared/store'
import type { Design, Intake, Permission, Typed } from '../../shared/types'
import { api, data, Refused, words } from '../api'
import { merge, type Plain } from './merge'
import { rebased } from './rebase'
import { mayOn } from '../session'

export type Keeping = 'kept' | 'keeping' | 'unkept'

/** What this browser holds of a design that the server does not have: on what it is based, and what was last on its way. */
interface Left {
  revision: number
  base: string
  sent: string
  at: number
  design: Design
}

/** Tells one text from others; nobody need not be able to make an equal one. */
function sum(text: string): string {
  let h = 0xcbf29ce484222325n
  for (let i = 0; i < text.length; i++) h = BigInt.asUintN(64, (h ^ BigInt(text.charCodeAt(i))) * 0x100000001b3n)
  return `${text.length}-${h.toString(36)}`
}

/**
 * The intake that is being worked on: its design is changed in place, kept by itself, and can be undone. What the server does not
 * have yet lies in the browser, so that neither a reload nor a lost connection loses it; nothing of it is thrown away unseen.
 */
export function createIntake(id: number) {
  const intake = ref<Intake>()
  const design = ref<Design>()
  const keeping = ref<Keeping>('kept')
  const problem = ref('')
  /** Somebody else changed the same places: who is right is to be said. */
  const stale = ref(false)
  /** What somebody else changed was joined with mine. */
  const joined = ref(false)
  /** Work of before in this browser that is based on another design than the server's. */
  const older = ref<{ at: number; design: Design }>()
  const past = ref<string[]>([])
  const future = ref<string[]>([])
  /** Counts undo and redo. */
  const stepped = ref(0)
  const place = `amberseal:draft:${id}`
  /** Answers typed into the form's proof: a trial that leaves no trace. */
  const trial = ref<Record<string, Typed>>({})
  let known = '' // the design as the server has it
  let sent = '' // the design as it was last on its way there
  let last = '' // the design at the last step of the history

  const fetched = () => data(api.GET('/api/intakes/{id}', { params: { path: { id } } }))

  async function load() {
    try {
      const got = await fetched()
      adopt(got)
      restore()
      problem.value = ''
    } catch (e) {
      problem.value = words(e)
    }
  }

  function adopt(got: Intake) {
    intake.value = got
    known = last = JSON.stringify(got.design)
    design.value = JSON.parse(known) as Design
    stale.value = false
    keeping.value = 'kept'
  }

  /** Takes up what was typed before a reload: at once where the server has what it is based on, else it is offered. */
  function restore() {
    let left: Left | null = null
    try {
      left = JSON.parse(store.get(place) ?? 'null') as Left | null
    } catch {
      store.remove(place)
    }
    if (!left?.design || JSON.stringify(left.design) === known) {
      store.remove(place)
      return
    }
    const now = sum(known)
    if (left.base === now || left.sent === now) design.value = left.design
    else older.value = { at: left.at, design: left.design }
  }
  function takeOlder() {
    if (older.value) replace(older.value.design)
    older.value = undefined
  }
  function throwAway() {
    older.value = undefined
    store.remove(place)
  }

  /** Takes over counts and standing, and what somebody else changed while nothing of mine is on its way. */
  /** Whether the signed-in person may do something with this intake. */
  const may = (what: Permission) => mayOn(what, intake.value)

  async function refresh() {
    try {
      const got = await fetched()
      if (!intake.value || keeping.value !== 'kept') return
      if (got.revision === intake.value.revision) intake.value = got
      else if (JSON.stringify(design.value) === known) {
        adopt(got)
        past.value = []
        future.value = []
      }
    } catch {
      // The next change asks again.
    }
  }

  let saving: Promise<void> | undefined
  async function save(): Promise<void> {
    if (saving) await saving
    if (!design.value || !intake.value || stale.value || !may('design')) return
    const text = JSON.stringify(design.value)
    if (text === known) {
      keeping.value = 'kept'
      return
    }
    keeping.value = 'keeping'
    saving = put(text).finally(() => (saving = undefined))
    await saving
  }

  async function put(text: string) {
    sent = text
    leave()
    try {
      const got = await data(
        api.PUT('/api/intakes/{id}/design', {
          params: { path: { id } },
          body: { revision: intake.value!.revision, design: JSON.parse(text) as Design },
        }),
      )
      intake.value = got
      known = text
      problem.value = ''
      if (JSON.stringify(design.value) === text) {
        if (!older.value) store.remove(place)
        keeping.value = 'kept'
      } else {
        leave()
        soon()
      }
    } catch (e) {
      keeping.value = 'unkept'
      problem.value = words(e)
      if (!(e instanceof Refused)) setTimeout(() => void save(), 3000)
      else if (e.problem.type.endsWith('/stale')) await join()
    }
  }
  const soon = useDebounceFn(() => save(), 350)

  /** Joins my change with what somebody else kept meanwhile; where both changed the same, it is to be said whose stays. */
  async function join() {
    let got: Intake
    try {
      got = await fetched()
    } catch {
      return // the next try meets the same refusal
    }
    if (got.revision === intake.value!.revision) return // refused for another reason, such as an address that is taken
    const m = merge(
      JSON.parse(known) as Plain,
      JSON.parse(JSON.stringify(design.value)) as Plain,
      JSON.parse(JSON.stringify(got.design)) as Plain,
    )
    if (m.conflicts.length) {
      stale.value = true
      problem.value = ''
      return
    }
    take(got, m.value as unknown as Design)
  }

  /** Goes on from somebody else's revision with a design of mine. */
  function take(got: Intake, mine: Design) {
    problem.value = ''
    stale.value = false
    joined.value = true
    intake.value = got
    const theirs = JSON.stringify(got.design)
    const now = JSON.stringify(mine)
    // Undo takes back my steps: each state of before has what they changed from here on.
    past.value = rebased(past.value, known, theirs)
    future.value = rebased(future.value, known, theirs)
    last = rebased([last], known, theirs)[0] ?? now
    known = theirs
    design.value = JSON.parse(now) as Design
    void soon()
  }

  function leave() {
    if (older.value) return // what is offered is not written over
    const left: Left = {
      revision: intake.value!.revision,
      base: sum(known),
      sent: sum(sent),
      at: Date.now(),
      design: design.value!,
    }
    store.set(place, JSON.stringify(left))
  }
  const leaveSoon = useThrottleFn(leave, 300, true)

  /** Ends a step of the history: what follows is undone by itself. */
  function mark() {
    const now = JSON.stringify(design.value)
    if (now === last) return
    past.value.push(last)
    if (past.value.length > 200) past.value.shift()
    future.value = []
    last = now
  }
  const remember = useDebounceFn(mark, 500)

  watch(
    design,
    () => {
      if (!intake.value) return
      if (JSON.stringify(design.value) === known) {
        // Undone to what the server has: a reload must not bring the undone change back.
        if (!older.value) store.remove(place)
        void soon()
        return
      }
      keeping.value = 'unkept'
      void leaveSoon()
      void remember()
      void soon()
    },
    { deep: true },
  )

  function step(from: string[], to: string[]) {
    const now = JSON.stringify(design.value)
    // A change that is not in the history yet is the first to go.
    const before = from === past.value && now !== last ? last : from.pop()
    if (before === undefined) return
    to.push(now)
    last = before
    stepped.value++
    design.value = JSON.parse(before) as Design
    void soon()
  }
  const undo = () => step(past.value, future.value)
  const redo = () => step(future.value, past.value)

  useEventListener(window, 'keydown', (e: KeyboardEvent) => {
    const typing = (e.target as HTMLElement).closest('input, textarea, [contenteditable=true]')
    if (typing || !(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== 'z') return
    e.preventDefault()
    if (e.shiftKey) redo()
    else undo()
  })

  /** Keeps mine where both changed the same, and everything else of both. */
  async function overrule() {
    try {
      const got = await fetched()
      const m = merge(
        JSON.parse(known) as Plain,
        JSON.parse(JSON.stringify(design.value)) as Plain,
        JSON.parse(JSON.stringify(got.design)) as Plain,
      )
      take(got, m.value as unknown as Design)
      await save()
    } catch (e) {
      problem.value = words(e)
    }
  }

  /** Takes theirs; mine is offered once more, in case that was a slip. */
  async function yieldTo() {
    const mine = JSON.parse(JSON.stringify(design.value)) as Design
    try {
      adopt(await fetched())
      older.value = { at: Date.now(), design: mine }
    } catch (e) {
      problem.value = words(e)
    }
  }

  async function setOpen(open: boolean, paused = false) {
    problem.value = ''
    await save()
    try {
      intake.value = await data(
        api.PUT('/api/intakes/{id}/opening', { params: { path: { id } }, body: { open, paused } }),
      )
    } catch (e) {
      problem.value = words(e)
    }
  }

  /** Takes over a design that the server rewrote, as one step of the history. */
  function replace(by: Design) {
    mark()
    design.value = by
    mark()
  }

  const findings = computed(() => intake.value?.findings ?? [])
  return {
    id,
    may,
    intake,
    design,
    keeping,
    problem,
    stale,
    joined,
    older,
    takeOlder,
    throwAway,
    yieldTo,
    past,
    future,
    stepped,
    findings,
    trial,
    replace,
    mark,
    load,
    refresh,
    save,
    undo,
    redo,
    overrule,
    setOpen,
  }
}

export type OnDesk = ReturnType<typeof createIntake>
const key: InjectionKey<OnDesk> = Symbol('intake')

export function provideIntake(id: number): OnDesk {
  const draft = createIntake(id)
  provide(key, draft)
  return draft
}

export function useIntake(): OnDesk {
  const draft = inject(key)
  if (!draft) throw new Error('useIntake is for the workspace only')
  return draft
}
