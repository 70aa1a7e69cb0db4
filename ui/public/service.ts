import type { Checked, FileAnswer, Problem, PublicForm, Receipt, Typed } from '../shared/types'

/** A refusal in the server's words. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail)
  }
}

async function json<T>(r: Response): Promise<T> {
  if (r.ok) return (await r.json()) as T
  let problem: Problem
  try {
    problem = (await r.json()) as Problem
  } catch {
    problem = { type: 'about:blank', title: '', status: r.status, detail: `${r.status}` }
  }
  throw new Refused(r.status, problem)
}

/** What a page says of itself: the version of the form it shows, and the personal link it was reached by. */
export interface Here {
  version?: number
  invitation?: string
  correct?: string
}

/** What the respondents' page asks of the server about one form. */
export function serviceOf(slug: string) {
  const at = `/api/public/intakes/${encodeURIComponent(slug)}`
  const post = (path: string, body: unknown, headers: Record<string, string> = {}) =>
    fetch(at + path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...headers },
      body: JSON.stringify(body),
    })

  return {
    form: async (language: string, invitation: string) => {
      const query = new URLSearchParams()
      if (language) query.set('language', language)
      if (invitation) query.set('invitation', invitation)
      return json<PublicForm>(await fetch(query.size ? `${at}?${query}` : at)) // the bare address is preloaded
    },
    keep: async (answers: Record<string, Typed>, token: string | undefined, here: Here) =>
      json<{ token: string }>(await post('/drafts', { answers, ...(token ? { token } : {}), ...here })),
    remind: async (token: string, body: { email: string; days: number; language: string; invitation?: string }) =>
      json<{ due: string }>(
        await fetch(`${at}/drafts/${encodeURIComponent(token)}/reminder`, {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify(body),
        }),
      ),
    sent: async (token: string) =>
      json<{ number: string; revision: number; received: string; answers: Record<string, Typed> }>(
        await fetch(`${at}/sent/${encodeURIComponent(token)}`),
      ),
    /** What became of a sending by its key; a refusal with 404 where it did not arrive. */
    arrived: async (once: string) => json<Receipt>(await fetch(`${at}/sendings/${encodeURIComponent(once)}`)),
    receipt: async (token: string) => json<Receipt>(await fetch(`${at}/receipts/${encodeURIComponent(token)}`)),
    kept: async (token: string) =>
      json<{ answers: Record<string, Typed> }>(await fetch(`${at}/drafts/${encodeURIComponent(token)}`)),
    check: async (answers: Record<string, Typed>, language: string, here: Here) =>
      json<Checked>(await post('/check', { answers, language, ...here })),
    submit: async (
      body: Here & { answers: Record<string, Typed>; language: string; page: object; draft?: string },
      once: string,
    ) => json<Receipt>(await post('/submissions', body, { 'Idempotency-Key': once })),
    preview: async (answers: Record<string, Typed>, language: string, here: Here) => {
      const r = await post('/preview', { answers, language, ...here })
      if (!r.ok) await json(r)
      return r.blob()
    },
    /** lost is what to say when the connection breaks off. */
    upload: (field: string, file: File, here: Here, lost: string, progress: (share: number) => void) =>
      new Promise<FileAnswer>((resolve, reject) => {
        const r = new XMLHttpRequest() // fetch does not tell how far it is
        const query = new URLSearchParams({ name: file.name })
        for (const [k, v] of Object.entries(here)) query.set(k, String(v))
        r.open('POST', `${at}/uploads/${encodeURIComponent(field)}?${query}`)
        r.setRequestHeader('Content-Type', 'application/octet-stream')
        r.upload.onprogress = (e) => e.lengthComputable && progress(e.loaded / e.total)
        r.onerror = () => reject(new Error(lost))
        r.onload = () => {
          try {
            if (r.status === 201) resolve(JSON.parse(r.responseText) as FileAnswer)
            else reject(new Error((JSON.parse(r.responseText) as Problem).detail))
          } catch {
            reject(new Error(lost))
          }
        }
        r.send(file)
      }),
  }
}
