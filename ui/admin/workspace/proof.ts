import { ref, watch, type Ref } from 'vue'
import type { Design, ProofSource } from '../../shared/types'
import { words } from '../api'

export interface ProofQuestion extends ProofSource {
  design: Design
  key: string
}

/** How long a change waits for others that come with it, in milliseconds. */
const pause = 25

/**
 * Asks for a proof again after each change. One question is on its way at a time; what changed meanwhile is asked with
 * the next, so that a proof follows the typing as fast as it can be made and an older answer never replaces a newer one.
 */
export function useProof<T, Q = ProofQuestion>(question: () => Q | undefined, ask: (q: Q) => Promise<T>) {
  const proof = ref<T>() as Ref<T | undefined>
  const problem = ref('')
  let waiting = false
  let asking = false
  async function again() {
    if (waiting) return
    waiting = true
    await new Promise((resolve) => setTimeout(resolve, pause))
    if (asking) return // whoever asks now asks again
    asking = true
    while (waiting) {
      waiting = false
      const q = question()
      try {
        const got = q ? await ask(q) : undefined
        proof.value = got
        problem.value = ''
      } catch (e) {
        problem.value = words(e)
      }
    }
    asking = false
  }
  watch(question, () => void again(), { deep: true, immediate: true })
  return { proof, problem }
}
