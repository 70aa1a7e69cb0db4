import type { Notice } from '../../../shared/types'
import { t } from '../../words'

/** Whom a notice goes to besides its first line, in a few words. */
export function besides(n: Notice): string {
  const said = [
    n.route ? t('notices.byAnswer') : '',
    (n.roles?.length ?? 0) + (n.people?.length ?? 0) ? t('notices.peopleOfHouse') : '',
    n.copy?.length ? t('notices.copy') : '',
    n.blindCopy?.length ? t('notices.blindCopy') : '',
    n.replyTo?.length ? t('notices.replyTo') : '',
    n.senderName?.length ? t('notices.senderName') : '',
  ]
  return said.filter(Boolean).join(', ')
}

/** The days of a week, as a design names them. */
export const weekdays: { value: string; words: string }[] = [
  { value: 'monday', words: t('notices.monday') },
  { value: 'tuesday', words: t('notices.tuesday') },
  { value: 'wednesday', words: t('notices.wednesday') },
  { value: 'thursday', words: t('notices.thursday') },
  { value: 'friday', words: t('notices.friday') },
  { value: 'saturday', words: t('notices.saturday') },
  { value: 'sunday', words: t('notices.sunday') },
]

/** What a notice that is collected waits for, in a few words. */
function collectWords(c: NonNullable<Notice['collect']>): string {
  if (c.every === 'count') return t('notices.collectedAtCount', { n: c.count ?? 0 })
  const at = c.at ? t('notices.atHour', { at: c.at }) : ''
  const day = weekdays.find((d) => d.value === c.day)
  return c.every === 'week' && day
    ? t('notices.collectedOn', { day: day.words, at })
    : t('notices.collectedEachDay', { at })
}

/** When a notice goes, in a few words. */
export function dueWords(n: Notice): string {
  if (n.collect) return collectWords(n.collect)
  const d = n.delay
  if (!d) return t('notices.atOnce')
  const days = d.days ?? 0
  const at = d.at ? t('notices.atHour', { at: d.at }) : ''
  const after = d.field ? t('notices.theDay') : t('notices.theArrival')
  if (!days && d.minutes) return t('notices.minutesAfter', { n: d.minutes, after })
  if (!days) return `${t('notices.on', { after })}${at}`
  const n2 = Math.abs(days)
  return `${days < 0 ? t('notices.daysBefore', { n: n2, after }, n2) : t('notices.daysAfter', { n: n2, after }, n2)}${at}`
}
