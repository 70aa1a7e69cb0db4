import { useDebounceFn, useEventListener } from '@vueuse/core'
import { computed, inject, provide, ref, watch, type InjectionKey } from 'vue'
import type { Design, Intake, Typed } from '../../shared/types'
import { api, data, Refused, words } from '../api'

export type Keeping = 'kept' | 'keeping' | 'unkept'

/**
 * The intake on the desk: its design is changed in place, kept by itself, and can be undone. What the server does not
 * have yet lies in the browser, so that neither a reload nor a lost connection loses it.
 */
export function createIntake(id: number) {
  const intake = ref<Intake>()
  const design = ref<Design>()
  const keeping = ref<Keeping>('kept')
  const problem = ref('')
  const stale = ref(false)
  const past = ref<string[]>([])
  const future = ref<string[]>([])
  const store = `amberseal:draft:${id}`
  /** Answers typed into the form's proof: a trial that leaves no trace. */
  const trial = ref<Record<string, Typed>>({})
  let known = '' // the design as the server has it
  let last = '' // the design at the last step of the history

  async function load() {
    try {
      const got = await data(api.GET('/api/intakes/{id}', { params: { path: { id } } }))
      adopt(got)
      restore(got)
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

  /** Takes up what was typed before a reload, if nobody changed the intake since. */
  function restore(got: Intake) {
    try {
      const left = JSON.parse(localStorage.getItem(store) ?? 'null') as { revision: number; design: Design } | null
      if (left && left.revision === got.revision) design.value = left.design
      else localStorage.removeItem(store)
    } catch {
      localStorage.removeItem(store)
    }
  }

  /** Takes over what is not the design: counts and standing. */
  async function refresh() {
    try {
      const got = await data(api.GET('/api/intakes/{id}', { params: { path: { id } } }))
      if (intake.value && got.revision === intake.value.revision) intake.value = got
    } catch {
      // The next change asks again.
    }
  }

  let saving: Promise<void> | undefined
  async function save(): Promise<void> {
    if (saving) await saving
    if (!design.value || !intake.value || stale.value) return
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
        localStorage.removeItem(store)
        keeping.value = 'kept'
      } else {
        leave()
        soon()
      }
    } catch (e) {
      keeping.value = 'unkept'
      if (e instanceof Refused && e.status === 409 && !e.message.includes('address')) stale.value = true
      problem.value = words(e)
      if (!(e instanceof Refused)) setTimeout(() => void save(), 3000)
    }
  }
  const soon = useDebounceFn(() => save(), 350)

  function leave() {
    try {
      localStorage.setItem(store, JSON.stringify({ revision: intake.value!.revision, design: design.value }))
    } catch {
      // A full or forbidden store costs only the safety net.
    }
  }

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
        localStorage.removeItem(store)
        void soon()
        return
      }
      keeping.value = 'unkept'
      leave()
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

  /** Keeps my design over somebody else's. */
  async function overrule() {
    const mine = JSON.stringify(design.value)
    const got = await data(api.GET('/api/intakes/{id}', { params: { path: { id } } }))
    adopt(got)
    design.value = JSON.parse(mine) as Design
    await save()
  }

  async function setOpen(open: boolean) {
    problem.value = ''
    await save()
    try {
      intake.value = await data(api.PUT('/api/intakes/{id}/opening', { params: { path: { id } }, body: { open } }))
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
    intake,
    design,
    keeping,
    problem,
    stale,
    past,
    future,
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
  const desk = createIntake(id)
  provide(key, desk)
  return desk
}

export function useIntake(): OnDesk {
  const desk = inject(key)
  if (!desk) throw new Error('useIntake is for the workspace only')
  return desk
}
