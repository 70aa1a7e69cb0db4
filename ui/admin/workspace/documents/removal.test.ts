import { expect, test } from 'vitest'
import type { Design } from '../../../shared/types'
import { takeOut, usesOf } from './removal'

const design = () =>
  ({
    documents: [{ key: 'receipt' }, { key: 'sheet' }],
    notices: [
      { key: 'a', name: 'A', attach: [{ document: 'receipt' }, { document: 'sheet' }, { answers: true }] },
      { key: 'b', name: 'B', attach: [] },
    ],
    filings: [
      { key: 'first', name: 'First', what: [{ document: 'receipt' }, { document: 'sheet' }, { answers: true }] },
      { key: 'second', name: 'Second', what: [{ document: 'sheet' }, { document: 'receipt' }] },
      { key: 'alone', name: 'Alone', what: [{ document: 'receipt' }] },
      { key: 'other', name: 'Other', what: [{ files: 'photos' }] },
    ],
  }) as unknown as Design

test('a document is taken out of each list that names it, and only a rule that files nothing else goes with it', () => {
  const d = design()
  expect(usesOf(d, 'receipt')).toEqual([
    { of: 'notice', key: 'a', name: 'A' },
    { of: 'filing', key: 'first', name: 'First' },
    { of: 'filing', key: 'second', name: 'Second' },
    { of: 'rule', key: 'alone', name: 'Alone' },
  ])
  takeOut(d, 'receipt')
  expect(d.documents.map((x) => x.key)).toEqual(['sheet'])
  expect(d.notices[0]!.attach).toEqual([{ document: 'sheet' }, { answers: true }])
  expect(d.filings).toEqual([
    { key: 'first', name: 'First', what: [{ document: 'sheet' }, { answers: true }] },
    { key: 'second', name: 'Second', what: [{ document: 'sheet' }] },
    { key: 'other', name: 'Other', what: [{ files: 'photos' }] },
  ])
  expect(JSON.stringify(d)).not.toContain('receipt')
})

test('a document that nothing names goes alone', () => {
  const d = design()
  d.documents.push({ key: 'lone' } as never)
  expect(usesOf(d, 'lone')).toEqual([])
})
