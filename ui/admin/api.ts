import createClient from 'openapi-fetch'
import type { paths } from '../shared/schema'
import type { Problem } from '../shared/types'
import { t } from './words'

export const api = createClient<paths>()

/** A file as a request's body, sent as it is. */
export const octets = (file: File) => ({
  body: file as unknown as string, // the API's description says binary, which the client takes for text
  bodySerializer: (b: unknown) => b as Blob,
  headers: { 'Content-Type': 'application/octet-stream' },
})

/** The file that was chosen; the input is emptied, so that the same one can be chosen again. */
export function chosenFile(e: Event): File | undefined {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  return file
}

/** A refusal without a problem in it, as of something between the program and us. */
const unsaid: Problem = { type: 'about:blank', title: '', status: 0, detail: '' }

/** What a refused request says, in the server's words. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail)
  }
}

/** The data of a response, or an error in plain words. */
export async function data<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let r
  try {
    r = await request
  } catch {
    throw new Error(t('program.programCannotReachedWhatYou'))
  }
  if (r.response.ok) return r.data as T
  const problem = r.error as Problem | undefined
  if (r.response.status === 401 && !location.pathname.startsWith('/sign-in')) {
    location.assign(`/sign-in?ended=1&to=${encodeURIComponent(location.pathname + location.search)}`)
  }
  throw new Refused(
    r.response.status,
    problem?.detail ? problem : { ...unsaid, detail: t('program.programAnswered', { status: r.response.status }) },
  )
}

/** The words of any error. */
export function words(e: unknown): string {
  return e instanceof Error ? e.message : String(e)
}
