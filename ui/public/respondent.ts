import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, reactive, ref, shallowRef, watch } from 'vue'
import { rawAnswers } from '../shared/sheet/raw'
import { fieldSettings } from '../shared/settings'
import { defaultAnswer, plainSheet, type Sheet } from '../shared/sheet/sheet'
import { direction, en, filled, ownLanguage, sameLanguage, textsOf, type Texts } from '../shared/texts'
import type { Checked, Field, PathFinding, PublicForm, Receipt, Typed } from '../shared/types'
import { freshKey, keeper, sendingOf, sweep } from './answers'
import { Refused, serviceOf } from './service'
import type { Corrected, FormPage, Stage } from './stages'

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
  const sent = parameters.get('sent') ?? ''
  const draft = ref(parameters.get('go-on') ?? '')
  const language = ref(parameters.get('language') ?? '')
  const answers = ref<Record<string, Typed>>({})
  const checked = ref<Checked>()
  const errors = ref<Record<string, string>>({})
  const problem = ref('')
  const sending = ref(false)
  const receipt = ref<Receipt>()
  const corrected = ref<Corrected>()
  const page = ref(0)
  const trap = ref('')
  // What a link is about stands in its first letters; the rest of it opens something and is not kept.
  const ofLink = (token: string) => `${slug}+${token.slice(0, 12)}`
  const link = correct || draft.value
  const kept = keeper(link ? ofLink(link) : slug, (theirs) => {
    answers.value = { ...answers.value, ...theirs }
  })
  // One key for one set of answers: sending again after a lost connection is taken in once. It is kept until the sending is answered.
  let once = freshKey()
  const unanswered = sendingOf(link ? ofLink(link) : slug)
  /** What to say of something that had arrived though nobody heard of it. */
  const arrival = ref('')
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
    ours: computed(() => {
      const own = ownLanguage(form.value?.language ?? 'en')
      return form.value && !sameLanguage(own, form.value.words) ? own : ''
    }),
    currency: computed(() => form.value?.currency ?? ''),
    shows,
    requires: (path: string, field: Field) => checked.value?.required.includes(path) || (field.required ?? false),
    calculated: (path: string) => checked.value?.calculated[path],
    fillOf: (path: string) => form.value?.fills[path.replace(/\/\d+\//, '.')],
    errorOf: (path: string) => errors.value[path],
    upload,
    wait,
    hold,
  }) as Sheet

  /** What each request says of this page. */
  const here = () => ({
    ...(form.value ? { version: form.value.version } : {}),
    ...(invitation ? { invitation } : {}),
    ...(correct ? { correct } : {}),
  })

  // A page is not left while a file of it is on its way, or waits for its turn: its answer would be lost.
  const underway = new Set<Promise<unknown>>()
  function wait(until: Promise<unknown>) {
    underway.add(until)
    void until.catch(() => undefined).finally(() => underway.delete(until))
  }
  function upload(field: string, file: File, progress: (share: number) => void) {
    const sent = service.upload(field, file, here(), texts.value.lost, progress)
    wait(sent)
    return sent
  }
  async function allIsSent() {
    while (underway.size) await Promise.allSettled(underway)
    await nextTick()
  }
  // Nor while one could not be sent.
  const held = new Map<object, { path: string; words: string }>()
  function hold(control: object, path: string, words: string) {
    if (words) held.set(control, { path, words })
    else held.delete(control)
  }

  const raw = () => rawAnswers(fields.value, answers.value, form.value?.language ?? 'en')

  async function load() {
    stage.value = 'loading'
    sweep()
    try {
      if (sent) {
        receipt.value = await service.receipt(sent)
        await take(await service.form(language.value, ''))
        stage.value = 'again'
        return
      }
      await take(await service.form(language.value, invitation))
      const got = form.value!
      if (await hadArrived()) return
      if (got.open) await restore()
      if (got.open && hasRules.value && Object.keys(raw()).length) await check()
      began = performance.now()
      page.value = stepOf(location.hash)
      stage.value = got.open ? 'asking' : 'closed'
    } catch (e) {
      const missing = e instanceof Refused && (e.status === 404 || e.status === 409)
      stage.value = !missing ? 'unreachable' : sent || correct || draft.value ? 'linkless' : 'missing'
    }
  }

  /** Takes up what the server asks, in its language. */
  async function take(got: PublicForm) {
    texts.value = await textsOf(got.language)
    form.value = got
    checked.value = got.begin ?? checked.value
    document.documentElement.lang = got.language
    document.documentElement.dir = direction(got.language)
  }

  /** Changes the language of the page where it stands: nothing is left, and nothing loses the focus. */
  async function setLanguage(to: string) {
    language.value = to
    try {
      await take(await service.form(to, invitation))
      if (hasRules.value) await check()
      if (Object.keys(errors.value).length) {
        const got = await service.check(raw(), to, here())
        errors.value = Object.fromEntries(
          got.findings.filter((f) => f.path in errors.value).map((f) => [f.path, f.message]),
        )
      }
    } catch {
      problem.value = texts.value.lost
    }
  }

  function begin(): Record<string, Typed> {
    const fresh: Record<string, Typed> = {}
    for (const f of fields.value) {
      const d = defaultAnswer(f, parameters, new Date(), form.value?.person)
      if (d !== undefined) fresh[f.key] = d
    }
    // Who was invited need not write the address again.
    const email = form.value?.email && fields.value.find((f) => f.kind === 'email' && fresh[f.key] === undefined)
    if (email) fresh[email.key] = form.value!.email!
    return fresh
  }

  /** Asks what became of a sending that was never answered; shows what it was taken in as, where it was. */
  async function hadArrived(): Promise<boolean> {
    const before = unanswered.read()
    if (!before) return false
    try {
      receipt.value = await service.arrived(before.once)
    } catch (e) {
      if (!(e instanceof Refused) || e.status !== 404) throw e
      unanswered.forget()
      return false
    }
    // What was changed since waits where the link to correct it leads to.
    const to = new URLSearchParams(receipt.value.correct?.split('?')[1]).get('correct')
    const other = before.changed && !!to
    if (other) keeper(ofLink(to), () => undefined).write(kept.read())
    arrival.value = other ? texts.value.arrivedOther : texts.value.arrived
    takenIn()
    return true
  }

  /** The submission is the house's now: this page shows it also when it is loaded again. */
  function takenIn() {
    unanswered.forget()
    kept.forget()
    const at = new URL(receipt.value?.read ?? location.pathname, location.href)
    if (language.value) at.searchParams.set('language', language.value)
    history.replaceState(null, '', at)
    stage.value = 'sent'
  }

  /** Takes up what was kept: by a personal link when the page was reached by one, else on this device. */
  async function restore() {
    const fresh = begin()
    let stored: Record<string, Typed> = {}
    if (correct) {
      const was = await service.sent(correct)
      corrected.value = was
      stored = { ...was.answers, ...kept.read() }
    } else if (draft.value) {
      // What was typed here and has not come to the house yet is the newer one.
      stored = { ...(await service.kept(draft.value)).answers, ...kept.read() }
    } else {
      stored = kept.read()
    }
    for (const f of fields.value) if (stored[f.key] !== undefined) fresh[f.key] = stored[f.key]!
    answers.value = fresh
  }

  /** Keeps the answers by a personal link, to go on with on another device; gives the link. */
  async function keepElsewhere(): Promise<string> {
    draft.value = (await service.keep(raw(), draft.value || undefined, here())).token
    const link = new URL(location.href)
    link.searchParams.set('go-on', draft.value)
    link.hash = ''
    return link.href
  }

  /** Keeps the answers and asks to be reminded of them in so many days; gives when that is. */
  async function remind(email: string, days: number): Promise<string> {
    await keepElsewhere()
    const body = { email, days, language: language.value || form.value!.language }
    return (await service.remind(draft.value, { ...body, ...(invitation ? { invitation } : {}) })).due
  }
  /** The address that was given as an answer, if there is one. */
  const email = computed(() => {
    const asked = fields.value.find((f) => f.kind === 'email')
    const given = asked && answers.value[asked.key]
    return typeof given === 'string' ? given : ''
  })

  watch(answers, (v) => {
    once = freshKey()
    if (stage.value === 'loading') return
    kept.write(v)
    unanswered.change()
    if (draft.value) void pushSoon()
  })
  /** Keeps what is typed behind the personal link, where there is one, so that both devices know it. */
  const pushSoon = useDebounceFn(async () => {
    if (!draft.value || stage.value === 'sent') return
    const now = answers.value
    try {
      await service.keep(raw(), draft.value, here())
    } catch {
      return // it is kept here, and goes with the next change
    }
    if (now === answers.value && link === draft.value) kept.forget()
  }, 1500)

  const hasRules = computed(
    () =>
      !!form.value?.watches.length ||
      fields.value.some((f) => f.formula || fieldSettings(f).fields?.some((c) => c.formula)),
  )
  let asked = 0
  /** Asks the server what the answers make of the form; an older answer never replaces a newer one. */
  async function check(): Promise<Checked | undefined> {
    const mine = ++asked
    const got = await service.check(raw(), language.value, here())
    if (mine === asked) checked.value = got
    return got
  }
  const checkSoon = useDebounceFn(() => check().catch(() => undefined), 120)

  /** An answer changed: its error is settled anew, and what depends on it too. */
  function touch(path: string) {
    kept.touched(path.split('/')[0]!)
    errors.value = Object.fromEntries(Object.entries(errors.value).filter(([k]) => k !== path))
    const name = path.replace(/\/\d+\//, '.')
    const watches = form.value?.watches ?? []
    if (hasRules.value && watches.some((w) => w === name || w.startsWith(`${name}.`))) void checkSoon()
  }

  const pageOf = (path: string) => pages.value.findIndex((p) => p.fields.some((f) => f.key === path.split('/')[0]))

  function tell(findings: PathFinding[], of?: FormPage): boolean {
    const mine = findings.filter((f) => !of || of.fields.some((x) => x.key === f.path.split('/')[0]))
    errors.value = Object.fromEntries(mine.map((f) => [f.path, f.message]))
    if (!of && mine.length) {
      const first = Math.min(...mine.map((f) => pageOf(f.path)).filter((n) => n >= 0))
      if (Number.isFinite(first)) page.value = first
    }
    return mine.length === 0
  }

  // Steps stand in the browser's history, so that its button goes one step back and a reload stays where it was.
  const stepOf = (hash: string) => Math.max(0, (Number.parseInt(hash.slice(1), 10) || 1) - 1)
  const stepMark = (n: number) => (n ? `#${n + 1}` : ' ')
  watch([stage, page], ([now, n], [was, before]) => {
    if (now === 'reading' && was === 'asking') history.pushState({ reading: true }, '', '#read')
    else if (now === 'asking' && was === 'asking' && n > before) history.pushState({ step: n }, '', stepMark(n))
    else if (now === 'asking' && was === 'asking' && n < before) history.replaceState({ step: n }, '', stepMark(n))
  })
  window.addEventListener('popstate', () => {
    if (stage.value !== 'asking' && stage.value !== 'reading') return
    errors.value = {}
    stage.value = 'asking'
    page.value = location.hash === '#read' ? pages.value.length - 1 : stepOf(location.hash)
  })

  /** The form has changed on the server: it is taken up anew, with the answers that were given. */
  async function renew() {
    await take(await service.form(language.value, invitation))
    if (!form.value!.open) {
      stage.value = 'closed'
      return
    }
    problem.value = texts.value.changed
    stage.value = 'asking'
    if (hasRules.value) await check()
  }

  /** What a refusal means for the page. */
  async function refused(e: unknown) {
    if (e instanceof Refused && e.status === 409) {
      try {
        await renew()
        return
      } catch {
        // The words of the refusal are the better ones then.
      }
    }
    problem.value = e instanceof Refused && e.status < 500 ? e.message : texts.value.lost
    if (e instanceof Refused && e.status === 503) problem.value = e.message
  }

  /** Goes to the next page, or to reading it all through; false when answers need another look. */
  async function forward(): Promise<boolean> {
    problem.value = ''
    await allIsSent()
    const unsent = [...held.values()].filter((h) => pageOf(h.path) === page.value)
    if (unsent.length) {
      errors.value = Object.fromEntries(unsent.map((h) => [h.path, h.words]))
      return false
    }
    try {
      const got = await check()
      const last = page.value >= pages.value.length - 1
      if (!got || !tell(got.findings, last ? undefined : current.value)) return false
      if (last) stage.value = 'reading'
      else page.value++
      return true
    } catch (e) {
      await refused(e)
      return false
    }
  }
  function back() {
    errors.value = {}
    page.value = Math.max(0, page.value - 1)
  }
  function change() {
    if (location.hash === '#read') history.back()
    else stage.value = 'asking'
  }

  async function submit(): Promise<Receipt> {
    const f = form.value!
    // Forms that are sent at once look like a robot's; somebody quick just waits for the rest of a second.
    await new Promise((done) => setTimeout(done, Math.max(0, 900 - (performance.now() - began))))
    const proof = f.strict ? (await import('./proof')).proofOf(f.stamp) : ''
    unanswered.begin(once)
    return service.submit(
      {
        answers: raw(),
        language: language.value || f.language,
        ...here(),
        ...(draft.value ? { draft: draft.value } : {}),
        page: { began: Math.round(performance.now() - began), trap: trap.value, stamp: f.stamp, proof },
      },
      once,
    )
  }

  const lapsed = (e: unknown) => e instanceof Refused && e.problem.findings?.[0]?.path === 'page/stamp'

  async function send() {
    sending.value = true
    problem.value = ''
    try {
      // Something else may have been sent before, and nobody knows whether it arrived.
      if (unanswered.read()?.changed && (await hadArrived())) return
      try {
        receipt.value = await submit()
      } catch (e) {
        if (!lapsed(e)) throw e
        // The page lay open for longer than its challenge lasts, or the program was started anew: once more with a new one.
        form.value = { ...form.value!, stamp: (await service.form(language.value, invitation)).stamp }
        receipt.value = await submit()
      }
      arrival.value = ''
      takenIn()
    } catch (e) {
      if (e instanceof Refused && e.status < 500) unanswered.forget() // it was answered
      if (e instanceof Refused && e.status === 422 && e.problem.findings?.length && !lapsed(e)) {
        problem.value = e.message
        tell(e.problem.findings)
        stage.value = 'asking'
      } else await refused(e)
    } finally {
      sending.value = false
    }
  }

  /** Forgets all that was typed and begins anew: for a device that others use too. */
  function clear() {
    kept.forget()
    unanswered.forget()
    errors.value = {}
    problem.value = ''
    answers.value = begin()
    kept.forget()
    page.value = 0
    void checkSoon()
  }

  function again() {
    clear()
    history.replaceState(null, '', location.pathname)
    receipt.value = undefined
    stage.value = 'asking'
  }

  /** The words of the page's tab: what is wrong and where one stands come first. */
  const title = computed(() => {
    const t = texts.value
    const f = form.value
    const name = f ? `${f.name} · ${f.house}` : ''
    switch (stage.value) {
      case 'asking': {
        const n = Object.keys(errors.value).length
        const wrong = n ? `${n === 1 ? t.wrongOne : filled(t.wrongMany, { n })} · ` : ''
        const step =
          pages.value.length > 1 ? `${filled(t.step, { n: page.value + 1, all: pages.value.length })} · ` : ''
        return wrong + step + name
      }
      case 'reading':
        return `${t.readTitle} · ${name}`
      case 'sent':
        return `${t.thanks} · ${name}`
      case 'missing':
        return t.missingTitle
      case 'linkless':
        return t.linklessTitle
      case 'unreachable':
        return t.unreachableTitle
    }
    return name
  })
  watch(title, (v) => v && (document.title = v), { immediate: true })

  const preview = () => service.preview(raw(), language.value, here())
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
    arrival,
    corrected,
    pages,
    page,
    current,
    trap,
    load,
    touch,
    forward,
    back,
    change,
    send,
    again,
    clear,
    setLanguage,
    preview,
    keepElsewhere,
    remind,
    email,
    pageOf,
  }
}
