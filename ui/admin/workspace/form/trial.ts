import { useDebounceFn } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import { rawAnswers } from '../../../shared/sheet/raw'
import { plainSheet, type Sheet } from '../../../shared/sheet/sheet'
import { fieldSettings } from '../../../shared/settings'
import type { Checked, Field } from '../../../shared/types'
import { api, data } from '../../api'
import { useIntake } from '../intake'
import { t } from '../../words'

/**
 * The form's proof as a trial: answers typed there are settled by the server as a respondent's are, and kept nowhere.
 */
export function useTrial(currency: () => string) {
  const { design, trial } = useIntake()
  const checked = ref<Checked>()
  const sent = ref(false) // “Try sending it” was pressed: errors show until something changes
  let asked = 0

  async function check() {
    if (!design.value) return
    const mine = ++asked
    try {
      const got = await data(
        api.POST('/api/designs/check', {
          body: { design: design.value, answers: rawAnswers(design.value.form.fields, trial.value, 'en') },
        }),
      )
      if (mine === asked) checked.value = got
    } catch {
      // A design that cannot be sent is told by the workspace.
    }
  }
  const soon = useDebounceFn(check, 90)
  watch([design, trial], () => void soon(), { deep: true, immediate: true })
  watch(trial, () => (sent.value = false), { deep: true })

  const errors = computed<Record<string, string>>(() =>
    sent.value ? Object.fromEntries((checked.value?.findings ?? []).map((f) => [f.path, f.message])) : {},
  )
  const labelOf = (path: string): string => {
    const [key, row, column] = path.split('/')
    const f = design.value?.form.fields.find((x) => x.key === key)
    const c = (f && fieldSettings(f).fields)?.find((x) => x.key === column)
    return c ? `${f!.label} ${Number(row) + 1}, ${c.label}` : f?.label || path
  }
  /** What the rules did with the answers typed, in sentences. */
  const said = computed(() => {
    const c = checked.value
    if (!c) return []
    return Object.entries(c.hidden).map(([path, h]) => {
      const by = h.by === path.split('/').at(-1) || h.by === path ? '' : t('form.with', { labelOf: labelOf(h.by) })
      return { path, text: t('form.hiddenDoesNotHold', { labelOf: labelOf(path), by, when: h.when }) }
    })
  })

  const sheet: Sheet = reactive({
    ...plainSheet(),
    currency: computed(currency),
    shows: (path: string) => !(path in (checked.value?.hidden ?? {})),
    requires: (path: string, f: Field) => checked.value?.required.includes(path) || (f.required ?? false),
    calculated: (path: string) => checked.value?.calculated[path],
    errorOf: (path: string) => errors.value[path],
    idOf: (path: string) => `proof-${path}`,
    upload: (_: string, file: File) =>
      Promise.resolve({ id: `trial-${file.name}`, name: file.name, type: file.type, size: file.size }),
  }) as Sheet

  const problems = computed(() => checked.value?.findings ?? [])
  return { checked, errors, said, sent, sheet, problems, labelOf }
}
