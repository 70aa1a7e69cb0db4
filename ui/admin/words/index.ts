import { createI18n } from 'vue-i18n'
import findings from '../../../core/words/finding/sentences.json'
import account from './en/account.json'
import blocks from './en/blocks.json'
import brought from './en/brought.json'
import cabinet from './en/cabinet.json'
import desk from './en/desk.json'
import documents from './en/documents.json'
import filing from './en/filing.json'
import form from './en/form.json'
import formula from './en/formula.json'
import house from './en/house.json'
import intakes from './en/intakes.json'
import marks from './en/marks.json'
import notices from './en/notices.json'
import opening from './en/opening.json'
import outside from './en/outside.json'
import page from './en/page.json'
import parts from './en/parts.json'
import people from './en/people.json'
import post from './en/post.json'
import program from './en/program.json'
import register from './en/register.json'
import signin from './en/signin.json'
import submission from './en/submission.json'
import workspace from './en/workspace.json'

/** All words of the workshop: a file for each room, and the sentences of findings as the core has them. */
const en = {
  account,
  blocks,
  brought,
  cabinet,
  desk,
  documents,
  filing,
  form,
  formula,
  house,
  intakes,
  marks,
  notices,
  opening,
  outside,
  page,
  parts,
  people,
  post,
  program,
  register,
  signin,
  submission,
  workspace,
}

type Findings = Record<string, { message: string; mend?: string }>
const sentences: Findings = findings

/** What the catalogue of the core writes plainly, in the syntax of vue-i18n: only {name} is more than letters. */
const plain = (s: string) => s.replace(/[@|]|\{(?![a-z]+\d*\})|(?<!\{[a-z]+\d*)\}/g, (c) => `{'${c}'}`)

/** Every word is put between marks in the pseudo-language: what a page shows without them stands outside the catalogue. */
const marked = (s: string) =>
  s
    .split(' | ')
    .map((part) => `⟦${part}⟧`)
    .join(' | ')

type Words = { [key: string]: string | Words }
function each<T extends Words>(words: T, change: (s: string) => string): T {
  return Object.fromEntries(
    Object.entries(words).map(([key, w]) => [key, typeof w === 'string' ? change(w) : each(w, change)]),
  ) as T
}

const coded = Object.fromEntries(
  Object.entries(sentences).map(([code, s]) => [
    code.replace('.', '_'),
    { message: plain(s.message), ...(s.mend ? { mend: plain(s.mend) } : {}) },
  ]),
)
const all = { ...en, finding: coded as Words }

export const i18n = createI18n({
  legacy: false,
  locale: 'en',
  messages: { en: import.meta.env.MODE === 'pseudo' ? each(all, marked) : all },
})

declare module 'vue-i18n' {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type
  export interface DefineLocaleMessage extends Catalogue {}
}
type Catalogue = typeof en

/** A word of the catalogue, for code outside a template; there it is $t. */
export const t = i18n.global.t

/** What is wrong, in the words of the catalogue; what has no code is said as the program said it. */
export function wrong(f: { code?: string; values?: Record<string, string>; message: string }): string {
  const key = f.code ? `finding.${f.code.replace('.', '_')}.message` : ''
  return key && i18n.global.te(key) ? i18n.global.t(key, f.values ?? {}) : f.message
}

/** How it is mended, in the words of the catalogue. */
export function mend(f: { code?: string; values?: Record<string, string>; mend?: string }): string | undefined {
  const key = f.code ? `finding.${f.code.replace('.', '_')}.mend` : ''
  return f.mend && key && i18n.global.te(key) ? i18n.global.t(key, f.values ?? {}) : f.mend
}
