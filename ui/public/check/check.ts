import { ref } from 'vue'
import type { Genuine } from '../../shared/types'

/** What is known: of a code, of a file, or that there is nothing. */
export type Found =
  | { as: 'nothing' }
  | { as: 'trial' | 'unknown' | 'changed' | 'failed' }
  | { as: 'code' | 'file' | 'another'; document: Genuine }

/** Asks the house which document carries a code, and whether a file is one of its own. */
export function useCheck() {
  const found = ref<Found>({ as: 'nothing' })
  const busy = ref(false)
  let asked: string | undefined // the code of the document that the last code named

  async function ask(path: string, init: RequestInit, missing: 'unknown' | 'changed', take: (d: Genuine) => Found) {
    busy.value = true
    try {
      const r = await fetch(`/api/public/checks${path}`, init)
      if (r.ok) found.value = take((await r.json()) as Genuine)
      else found.value = { as: r.status === 404 ? missing : 'failed' }
    } catch {
      found.value = { as: 'failed' }
    } finally {
      busy.value = false
    }
  }

  async function byCode(code: string) {
    asked = undefined
    if (code.trim().toUpperCase() === 'TRIAL') {
      found.value = { as: 'trial' }
      return
    }
    await ask(`/${encodeURIComponent(code)}`, {}, 'unknown', (document) => {
      asked = document.code
      return { as: 'code', document }
    })
  }

  const byFile = (file: File) =>
    ask(
      '',
      { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: file },
      'changed',
      (document) => ({ as: asked && asked !== document.code ? 'another' : 'file', document }),
    )

  return { found, busy, byCode, byFile }
}
