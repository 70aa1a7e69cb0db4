import { useDebounceFn } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'
import type { Design, ProofSource } from '../../shared/types'
import { words } from '../api'

export interface ProofQuestion extends ProofSource {
  design: Design
  key: string
}

/** Asks for a proof again shortly after each change; an older answer never replaces a newer one. */
export function useProof<T>(question: () => ProofQuestion | undefined, ask: (q: ProofQuestion) => Promise<T>) {
  const proof = ref<T>() as Ref<T | undefined>
  const problem = ref('')
  let asked = 0
  const again = useDebounceFn(async () => {
    const q = question()
    if (!q) {
      proof.value = undefined
      return
    }
    const mine = ++asked
    try {
      const got = await ask(q)
      if (mine === asked) {
        proof.value = got
        problem.value = ''
      }
    } catch (e) {
      if (mine === asked) problem.value = words(e)
    }
  }, 120)
  watch(question, () => void again(), { deep: true, immediate: true })
  return { proof, problem }
}
