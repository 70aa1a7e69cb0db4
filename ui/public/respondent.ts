import { computed, ref, watch } from 'vue'
import { plainNumber } from '../shared/numbers'
import type { Field, PathFinding, Problem, PublicForm, Receipt, Typed } from '../shared/types'

export type Stage = 'loading' | 'asking' | 'reading' | 'sent' | 'closed' | 'missing' | 'unreachable'

/** 128 random bits; randomUUID exists only on HTTPS pages. */
function freshKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('')
}

/** A respondent's way through one form: answers, errors, reading through, sending. Answers stay in the browser until sent. */
export function useRespondent(slug: string) {
  const stage = ref<Stage>('loading')
  const form = ref<PublicForm>()
  const answers = ref<Record<string, Typed>>({})
  const errors = ref<Record<string, string>>({})
  const problem = ref('')
  const sending = ref(false)
  const receipt = ref<Receipt>()
  const kept = `amberseal:${slug}`
  // One key for one set of answers: sending again after a lost connection is taken in once.
  let once = freshKey()

  const asked = computed(() => (form.value?.form.fields ?? []).filter((f) => f.kind !== 'section'))

  async function load() {
    stage.value = 'loading'
    try {
      const r = await fetch(`/api/public/intakes/${encodeURIComponent(slug)}`)
      if (r.status === 404) {
        stage.value = 'missing'
        return
      }
      form.value = (await r.json()) as PublicForm
      document.title = `${form.value.name} · ${form.value.house}`
      document.documentElement.lang = form.value.language
      restore()
      stage.value = form.value.open ? 'asking' : 'closed'
    } catch {
      stage.value = 'unreachable'
    }
  }

  function restore() {
    try {
      const stored = JSON.parse(localStorage.getItem(kept) ?? '{}') as Record<string, Typed>
      for (const f of asked.value) if (stored[f.key] !== undefined) answers.value[f.key] = stored[f.key]!
    } catch {
      localStorage.removeItem(kept)
    }
  }

  watch(answers, (v) => {
    once = freshKey()
    try {
      localStorage.setItem(kept, JSON.stringify(v))
    } catch {
      // A full or forbidden store costs only the safety net.
    }
  })

  function raw(f: Field): Typed | null {
    const v = answers.value[f.key]
    if (v === undefined || v === '') return null
    const numeric = f.kind === 'whole_number' || f.kind === 'decimal' || f.kind === 'money'
    return numeric && typeof v === 'string' ? plainNumber(v, form.value?.language ?? 'en-GB') : v
  }

  /** The obvious omissions, found before anything is sent; the server checks everything. */
  function readThrough() {
    errors.value = {}
    for (const f of asked.value) {
      const v = raw(f)
      if (f.required && (v === null || v === false || (Array.isArray(v) && v.length === 0))) {
        errors.value[f.key] =
          f.kind === 'yes_no'
            ? 'Please agree to this to go on.'
            : f.choices?.length
              ? 'Please choose.'
              : 'Please answer this question.'
      }
    }
    if (Object.keys(errors.value).length === 0) stage.value = 'reading'
    return Object.keys(errors.value).length === 0
  }

  function take(findings: PathFinding[]) {
    errors.value = Object.fromEntries(findings.map((f) => [f.path, f.message]))
    stage.value = 'asking'
  }

  async function send() {
    sending.value = true
    problem.value = ''
    try {
      const r = await fetch(`/api/public/intakes/${encodeURIComponent(slug)}/submissions`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'Idempotency-Key': once },
        body: JSON.stringify({ answers: Object.fromEntries(asked.value.map((f) => [f.key, raw(f)])) }),
      })
      if (r.ok) {
        receipt.value = (await r.json()) as Receipt
        localStorage.removeItem(kept)
        stage.value = 'sent'
        return
      }
      const p = (await r.json()) as Problem
      problem.value = p.message
      if (r.status === 422 && p.findings) take(p.findings)
    } catch {
      problem.value = 'The connection was lost. Your answers are kept on this device; please send them again.'
    } finally {
      sending.value = false
    }
  }

  function again() {
    answers.value = {}
    errors.value = {}
    receipt.value = undefined
    stage.value = 'asking'
  }

  return { stage, form, answers, errors, problem, sending, receipt, asked, load, readThrough, send, again, raw }
}
