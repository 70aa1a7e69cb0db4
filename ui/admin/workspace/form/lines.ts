import { computed, type Ref } from 'vue'
import { fieldSettings } from '../../../shared/settings'
import type { Design, Field } from '../../../shared/types'

/** A line of the form's script: a field, or a field inside rows one step in. */
export interface FormLine {
  field: Field
  name: string // its key, or ROWS.KEY
  rows: string // the key of its rows, or nothing
  depth: number
  at: number // its place in its own list
}

/** The fields of rows, which may have none yet. */
function inside(rows: Field | undefined): Field[] {
  return rows ? (fieldSettings(rows).fields ??= []) : []
}

/** The form's fields as one numbered script, and the changes of its order. */
export function useLines(design: Ref<Design | undefined>) {
  const lines = computed<FormLine[]>(() =>
    (design.value?.form.fields ?? []).flatMap((field, at): FormLine[] => [
      { field, name: field.key, rows: '', depth: 0, at },
      ...(fieldSettings(field).fields ?? []).map((c, k): FormLine => ({
        field: c,
        name: `${field.key}.${c.key}`,
        rows: field.key,
        depth: 1,
        at: k,
      })),
    ]),
  )
  const listOf = (line: FormLine): Field[] => {
    const fields = design.value!.form.fields
    return line.rows ? inside(fields.find((f) => f.key === line.rows)) : fields
  }
  /** Moves a line within its own list; gives the name that stands there. */
  function move(line: FormLine, by: number): boolean {
    const list = listOf(line)
    const to = line.at + by
    if (to < 0 || to >= list.length) return false
    list.splice(to, 0, ...list.splice(line.at, 1))
    return true
  }
  /** Puts fields behind a line: into its rows, when it stands in some or is their head. */
  function insert(after: FormLine | undefined, made: Field[]): void {
    const fields = design.value!.form.fields
    if (!after) {
      fields.push(...made)
      return
    }
    const own = fieldSettings(after.field)
    if (after.field.kind === 'rows' && !own.fields?.length) {
      own.fields = made
      return
    }
    listOf(after).splice(after.at + 1, 0, ...made)
  }
  /** The rows a line could go into: those above it, or beside it. */
  function rowsAbove(line: FormLine): Field | undefined {
    if (line.rows) return undefined
    return design.value!.form.fields.slice(0, line.at).findLast((f) => f.kind === 'rows')
  }
  return { lines, move, insert, rowsAbove, listOf }
}
