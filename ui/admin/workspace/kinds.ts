import type { BlockKind, FieldKind } from '../../shared/types'

/** The kinds of field and block, in the words people use for them. */
export const fieldKinds: Record<FieldKind, string> = {
  short_text: 'short text',
  long_text: 'long text',
  whole_number: 'whole number',
  decimal: 'decimal number',
  money: 'money',
  email: 'email',
  phone: 'telephone',
  date: 'date',
  one_of: 'one of several',
  several_of: 'several of several',
  yes_no: 'yes or no',
  section: 'section',
}

export const blockKinds: Record<BlockKind, string> = {
  heading: 'heading',
  text: 'text',
  answers: 'table of answers',
  picture: 'picture',
  rule: 'rule',
  space: 'space',
  letterhead: 'letterhead',
}
export const blockKindOrder: BlockKind[] = ['heading', 'text', 'answers', 'picture', 'rule', 'space', 'letterhead']
