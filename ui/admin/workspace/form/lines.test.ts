import { expect, test } from 'vitest'
import { ref } from 'vue'
import { chance } from '../../../shared/chance'
import type { Design, Field } from '../../../shared/types'
import { useLines } from './lines'

const { below, often } = chance(20261127)
const field = (key: string, fields?: Field[]) =>
  ({ key, label: key, kind: fields ? 'rows' : 'short_text', ...(fields ? { fields } : {}) }) as Field

test('however lines are moved and added, none is lost or doubled, and each is named by where it stands', () => {
  for (let n = 0; n < 200; n++) {
    let made = 0
    const more = () => field(`f${made++}`)
    const fields = Array.from({ length: 1 + below(5) }, () =>
      often(30) ? field(`r${made++}`, Array.from({ length: below(3) }, more)) : more(),
    )
    const design = ref({ form: { fields } } as unknown as Design)
    const { lines, move, insert, rowsAbove } = useLines(design)
    let all = lines.value.map((l) => l.field.key).sort()
    for (let k = 0; k < 30; k++) {
      const line = lines.value[below(lines.value.length)]!
      if (often(30)) {
        const fresh = more()
        insert(often(20) ? undefined : line, [fresh])
        all = [...all, fresh.key].sort()
      } else {
        const before = lines.value.map((l) => l.name)
        const by = often(50) ? 1 : -1
        if (!move(line, by)) expect(lines.value.map((l) => l.name)).toEqual(before)
      }
      expect(lines.value.map((l) => l.field.key).sort()).toEqual(all)
      for (const l of lines.value) {
        expect(l.name).toBe(l.rows ? `${l.rows}.${l.field.key}` : l.field.key)
        if (l.rows) expect(rowsAbove(l)).toBeUndefined()
      }
    }
  }
})
