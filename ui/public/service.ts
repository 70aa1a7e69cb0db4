import type { Checked, FileAnswer, Problem, PublicForm, Receipt, Typed } from '../shared/types'

/** A refusal in the server's words. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.message)
  }
}

async function json<T>(r: Response): Promise<T> {
  if (r.ok) return (await r.json()) as T
  let problem: Problem
  try {
    problem = (await r.json()) as Problem
  } catch {
    problem = { message: `${r.status}` }
  }
  throw new Refused(r.status, problem)
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
    keep: async (answers: Record<string, Typed>, token?: string) =>
      json<{ token: string }>(await post('/drafts', { answers, ...(token ? { token } : {}) })),
    sent: async (token: string) =>
      json<{ number: string; answers: Record<string, Typed> }>(await fetch(`${at}/sent/${encodeURIComponent(token)}`)),
    kept: async (token: string) =>
      json<{ answers: Record<string, Typed> }>(await fetch(`${at}/drafts/${encodeURIComponent(token)}`)),
    check: async (answers: Record<string, Typed>, language: string) =>
      json<Checked>(await post('/check', { answers, language })),
    submit: async (
      body: { answers: Record<string, Typed>; language: string; page: object; invitation?: string; correct?: string },
      once: string,
    ) => json<Receipt>(await post('/submissions', body, { 'Idempotency-Key': once })),
    preview: async (answers: Record<string, Typed>) => {
      const r = await post('/preview', { answers })
      if (!r.ok) await json(r)
      return r.blob()
    },
    upload: (field: string, file: File, progress: (share: number) => void) =>
      new Promise<FileAnswer>((resolve, reject) => {
        const r = new XMLHttpRequest() // fetch does not tell how far it is
        r.open('POST', `${at}/uploads/${encodeURIComponent(field)}?name=${encodeURIComponent(file.name)}`)
        r.setRequestHeader('Content-Type', 'application/octet-stream')
        r.upload.onprogress = (e) => e.lengthComputable && progress(e.loaded / e.total)
        r.onerror = () => reject(new Error('–'))
        r.onload = () => {
          try {
            if (r.status === 201) resolve(JSON.parse(r.responseText) as FileAnswer)
            else reject(new Error((JSON.parse(r.responseText) as Problem).message))
          } catch {
            reject(new Error(String(r.status)))
          }
        }
        r.send(file)
      }),
  }
}
