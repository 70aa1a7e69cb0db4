import { fieldSettings } from './settings'
import type { Field } from './types'

/** The parts of names and addresses in the order in which they are asked and read. */
const order = {
  name: ['title', 'given', 'middle', 'family', 'suffix'],
  address: ['street', 'extra', 'postcode', 'city', 'region', 'country'],
}
const usual = { name: ['given', 'family'], address: ['street', 'postcode', 'city', 'country'] }

/** The parts that a field asks for. */
export function partsOf(field: Field): string[] {
  const kind = field.kind as 'name' | 'address'
  const { parts } = fieldSettings(field)
  const asked = parts?.length ? parts : usual[kind]
  return order[kind].filter((p) => asked.includes(p))
}
