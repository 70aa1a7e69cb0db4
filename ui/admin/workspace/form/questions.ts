import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import type { Field } from '../../../shared/types'
import { api, data } from '../../api'
import { keptWords } from '../../kept'

/** A question while it is typed, with the kind guessed from its words; the guessing is the server's. */
export function useQuestions(intake: number, taken: () => string[], section: () => string) {
  const typed = keptWords(`question-${intake}`)
  const guess = ref<Field>()

  async function read(text: string): Promise<Field[]> {
    return (await data(api.POST('/api/questions', { body: { text, taken: taken(), section: section() } }))).fields
  }
  const look = useDebounceFn(async () => {
    const text = typed.value
    try {
      const first = text.trim() ? (await read(text))[0] : undefined
      if (text === typed.value) guess.value = first
    } catch {
      guess.value = undefined // the guess is a help; adding the line tells what is wrong
    }
  }, 150)
  watch(typed, look)
  if (typed.value) void look()

  /** The fields of what was typed; the line is empty again. */
  async function settle(): Promise<Field[]> {
    const text = typed.value
    const made = await read(text)
    if (typed.value === text) typed.value = ''
    guess.value = undefined
    return made
  }
  return { typed, guess, settle }
}
