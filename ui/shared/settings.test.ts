import { expect, test } from 'vitest'
import { computed, reactive } from 'vue'
import { fieldSettingNames, fieldKindOrder } from './kinds.gen'
import { fieldSettings } from './settings'
import type { Field } from './types'

test('settings stand under the name of the kind, and looking changes nothing', () => {
  for (const kind of fieldKindOrder) {
    const field = reactive<Field>({ key: 'a', kind, label: 'A' })
    const own = fieldSettings(field)
    const before = JSON.stringify(field)
    for (const name of fieldSettingNames[kind]) {
      const seen = computed(() => own[name])
      expect(seen.value).toBeUndefined()
      expect(JSON.stringify(field)).toBe(before)
      Object.assign(own, { [name]: 'x' })
      expect(seen.value).toBe('x')
      expect(field).toMatchObject({ [kind]: { [name]: 'x' } })
      expect({ ...own }).toEqual({ [name]: 'x' })
      Object.assign(own, { [name]: undefined })
      expect(seen.value).toBeUndefined()
      expect(JSON.stringify(field)).toBe(before)
    }
  }
})
