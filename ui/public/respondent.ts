import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, reactive, ref, shallowRef, watch } from 'vue'
import { rawAnswers } from '../shared/sheet/raw'
import { defaultAnswer, plainSheet, type Sheet } from '../shared/sheet/sheet'
import { direction, en, textsOf, type Texts } from '../shared/texts'
import type { Checked, Field, PathFinding, PublicForm, Receipt, Typed } from '../shared/types'
import { Refused, serviceOf } from './service'

export type Stage = 'loading' | 'asking' | 'reading' | 'sent' | 'closed' | 'missing' | 'unreachable'

/** 128 random bits; randomUUID exists only on HTTPS pages. */
function freshKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('')
}

/** One page of a form: what stands between two page marks. */
export interface FormPage {
  key: string
  label: string
  fields: Field[]
}

/**
 * A respondent's way through one form: answers, pages, errors, reading through, sending. What shows, what is calculated
 * and what is wrong is the server's to say; answers stay in the browser until they are sent.
 */
export function useRespondent(slug: string) {
  const service = serviceOf(slug)
  const stage = ref<Stage>('loading')
  const form = ref<PublicForm>()
  const texts = shallowRef<Texts>(en)
  const parameters = new URLSearchParams(location.search)
  const invitation = parameters.get('invitation') ?? ''
  const correct = parameters.get('correct') ?? ''
  const draft = ref(parameters.get('go-on') ?? '')
  const language = ref(parameters.get('language') ?? '')
  const answers = ref<Record<string, Typed>>({})
  const checked = ref<Checked>()
  const errors = ref<Record<string, string>>({})
  const problem = ref('')
  const sending = ref(false)
  const receipt = ref<Receipt>()
  const page = ref(0)
  const trap = ref('')
  const kept = `amberseal:${slug}${correct}`
  // One key for one set of answers: sending again after a lost connection is taken in once.
  let once = freshKey()
  let began = performance.now()

  const fields = computed(() => form.value?.form.fields ?? [])
  const shows = (path: string) => !(path in (checked.value?.hidden ?? {}))

  const pages = computed<FormPage[]>(() => {
    const out: FormPage[] = [{ key: '', label: '', fields: [] }]
    for (const f of fields.value) {
      if (f.kind === 'page') out.push({ key: f.key, label: f.label, fields: [] })
      else out.at(-1)!.fields.push(f)
    }
    return out.filter((p) => p.fields.length && (!p.key || shows(p.key)))
  })
  const current = computed(() => pages.value[Math.min(page.value, pages.value.length - 1)])

  const sheet: Sheet = reactive({
    ...plainSheet(),
    texts,
    language: computed(() => form.value?.language ?? 'en-GB'),
    currency: computed(() => form.value?.currency ?? ''),
    shows,
    requires: (path: string, field: Field) => checked.value?.required.includes(path) || (field.required ?? false),
    calculated: (path: string) => checked.value?.calculated[path],
    errorOf: (path: string) => errors.value[path],
    upload,
  }) as Sheet

  // A page is not left while a file of it is on its way: its answer would be lost.
  const underway = new Set<Promise<unknown>>()
  function upload(field: string, file: File, progress: (share: number) => void) {
    const sent = service.upload(field, file, progress)
    underway.add(sent)
    void sent.catch(() => undefined).finally(() => underway.delete(sent))
    return sent
  }

  const raw = () => rawAnswers(fields.value, answers.value, form.value?.language ?? 'en')

  async function load() {
    stage.value = 'loading'
    try {
      const got = await service.form(language.value, invitation)
      form.value = got
      texts.value = await textsOf(got.language)
      document.title = `${got.name} · ${got.house}`
      document.documentElement.lang = got.language
      document.documentElement.dir = direction(got.language)
      await restore()
      checked.value = got.begin
      if (got.open && hasRules.value && Object.keys(raw()).length) await check()
      began = performance.now()
      stage.value = got.open ? 'asking' : 'closed'
    } catch (e) {
      stage.value = e instanceof Refused && e.status === 404 ? 'missing' : 'unreachable'
    }
  }

  async function setLanguage(to: string) {
    language.value = to
    const at = page.value
    await load()
    page.value = at
  }

  function begin(): Record<string, Typed> {
    const fresh: Record<string, Typed> = {}
    for (const f of fields.value) {
      const d = f.default === '@person' ? form.value?.person : defaultAnswer(f, parameters, new Date())
      if (d !== undefined) fresh[f.key] = d
    }
    return fresh
  }

  /** Takes up what was kept: by a personal link when the page was reached by one, else on this device. */
  async function restore() {
    const fresh = begin()
    try {
      const stored = correct
        ? (await service.sent(correct)).answers
        : draft.value
          ? (await service.kept(draft.value)).answers
          : (JSON.parse(localStorage.getItem(kept) ?? '{}') as Record<string, Typed>)
      for (const f of fields.value) if (stored[f.key] !== undefined) fresh[f.key] = stored[f.key]!
    } catch {
      if (correct) throw new Error('there is nothing to correct')
      if (!draft.value) localStorage.removeItem(kept)
    }
    answers.value = fresh
  }

  /** Keeps the answers by a personal link, to go on with on another device; gives the link. */
  async function keepElsewhere(): Promise<string> {
    draft.value = (await service.keep(raw(), draft.value || undefined)).token
    const link = new URL(location.href)
    link.searchParams.set('go-on', draft.value)
    return link.href
  }

  watch(answers, (v) => {
    once = freshKey()
    try {
      localStorage.setItem(kept, JSON.stringify(v))
    } catch {
      // A full or forbidden store costs only the safety net.
    }
  })

  const hasRules = computed(
    () => !!form.value?.watches.length || fields.value.some((f) => f.formula || f.fields?.some((c) => c.formula)),
  )
  let asked = 0
  /** Asks the server what the answers make of the form; an older answer never replaces a newer one. */
  async function check(): Promise<Checked | undefined> {
    const mine = ++asked
    const got = await service.check(raw(), language.value)
    if (mine === asked) checked.value = got
    return got
  }
  const checkSoon = useDebounceFn(() => check().catch(() => undefined), 120)

  /** An answer changed: its error is settled anew, and what depends on it too. */
  function touch(path: string) {
    errors.value = Object.fromEntries(Object.entries(errors.value).filter(([k]) => k !== path))
    const name = path.replace(/\/\d+\//, '.')
    const watches = form.value?.watches ?? []
    if (hasRules.value && watches.some((w) => w === name || w.startsWith(`${name}.`))) void checkSoon()
  }

  const pageOf = (path: string) => pages.value.findIndex((p) => p.fields.some((f) => f.key === path.split('/')[0]))

  function take(findings: PathFinding[], of?: FormPage): boolean {
    const mine = findings.filter((f) => !of || of.fields.some((x) => x.key === f.path.split('/')[0]))
    errors.value = Object.fromEntries(mine.map((f) => [f.path, f.message]))
    if (!of && mine.length) {
      const first = Math.min(...mine.map((f) => pageOf(f.path)).filter((n) => n >= 0))
      if (Number.isFinite(first)) page.value = first
    }
    return mine.length === 0
  }

  /** Goes to the next page, or to reading it all through; false when answers need another look. */
  async function forward(): Promise<boolean> {
    problem.value = ''
    await Promise.allSettled(underway)
    await nextTick()
    try {
      const got = await check()
      const last = page.value >= pages.value.length - 1
      if (!got || !take(got.findings, last ? undefined : current.value)) return false
      if (last) stage.value = 'reading'
      else page.value++
      return true
    } catch (e) {
      problem.value = e instanceof Refused ? e.message : texts.value.lost
      return false
    }
  }
  function back() {
    errors.value = {}
    page.value = Math.max(0, page.value - 1)
  }

  async function send() {
    sending.value = true
    problem.value = ''
    try {
      const f = form.value!
      // Forms that are sent at once look like a robot's; somebody quick just waits for the rest of a second.
      await new Promise((done) => setTimeout(done, Math.max(0, 900 - (performance.now() - began))))
      const proof = f.strict ? (await import('./proof')).proofOf(f.stamp) : ''
      receipt.value = await service.submit(
        {
          answers: raw(),
          language: language.value || f.language,
          ...(invitation ? { invitation } : {}),
          ...(correct ? { correct } : {}),
          page: { began: Math.round(performance.now() - began), trap: trap.value, stamp: f.stamp, proof },
        },
        once,
      )
      localStorage.removeItem(kept)
      stage.value = 'sent'
    } catch (e) {
      problem.value = e instanceof Refused ? e.message : texts.value.lost
      if (e instanceof Refused && e.status === 422 && e.problem.findings?.length) {
        take(e.problem.findings)
        stage.value = 'asking'
      }
    } finally {
      sending.value = false
    }
  }

  function again() {
    answers.value = begin()
    errors.value = {}
    receipt.value = undefined
    page.value = 0
    stage.value = 'asking'
    void checkSoon()
  }

  const preview = () => service.preview(raw())
  return {
    stage,
    form,
    texts,
    sheet,
    answers,
    checked,
    errors,
    problem,
    sending,
    receipt,
    pages,
    page,
    current,
    trap,
    load,
    touch,
    forward,
    back,
    send,
    again,
    setLanguage,
    preview,
    keepElsewhere,
    pageOf,
  }
}
