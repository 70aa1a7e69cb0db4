import { useDebounceFn } from '@vueuse/core'
import { ref, watch } from 'vue'
import { rawAnswers } from '../../../shared/sheet/raw'
import type { ReadFormula } from '../../../shared/types'
import { api, data } from '../../api'
import { useIntake } from '../intake'

/** What the server makes of a formula while it is typed, for the answers of the proof. */
export function useReading(source: () => string, rows: () => string) {
  const { design, trial } = useIntake()
  const reading = ref<ReadFormula>()
  let asked = 0

  async function read() {
    const text = source()
    const mine = ++asked
    if (!text.trim() || !design.value) {
      reading.value = undefined
      return
    }
    try {
      const form = design.value.form
      const got = await data(
        api.POST('/api/formulas', {
          body: { form, source: text, rows: rows(), answers: rawAnswers(form.fields, trial.value, 'en') },
        }),
      )
      if (mine === asked) reading.value = got
    } catch {
      // The next key asks again; findings of the whole intake stand along the foot.
    }
  }
  const soon = useDebounceFn(read, 120)
  watch(source, () => void soon())
  watch(trial, () => void soon(), { deep: true })
  void read()
  return { reading, read }
}
