import type { Destination } from '../../shared/types'
import type { Addable } from '../parts/AddLine.vue'
import { t } from '../words'

/** The kinds of destinations. */
export const kinds: (Addable & { value: Destination['kind'] })[] = [
  {
    value: 'folder',
    words: t('outside.folder'),
    says: t('outside.folderSays'),
    drawing: 'M3 6h7l2 3h9v10H3z',
  },
  {
    value: 'bucket',
    words: t('outside.bucket'),
    says: t('outside.bucketSays'),
    drawing: 'M4 6c0-2 16-2 16 0l-2 14H6zM4 6c0 2 16 2 16 0',
  },
  {
    value: 'share',
    words: t('outside.share'),
    says: t('outside.shareSays'),
    drawing: 'M4 5h16v9H4zM12 14v5M6 19h12',
  },
  {
    value: 'vault',
    words: t('outside.vault'),
    says: t('outside.vaultSays'),
    drawing: 'M4 4h16v16H4zM12 9a3 3 0 1 0 0 6 3 3 0 0 0 0-6M12 12l4-4',
  },
]

/** A destination, said in one line. */
export function sentenceOf(d: Destination): string {
  const kind = kinds.find((k) => k.value === d.kind)?.words ?? ''
  if (d.key === 'cabinet') return t('outside.cabinetSays')
  const folder = d.folder ? ` / ${d.folder}` : ''
  if (d.kind === 'folder') return `${kind} ${d.folder ?? ''}`
  if (d.kind === 'bucket') return `${kind} ${d.bucket ?? ''} ${t('outside.at')} ${d.address ?? ''}${folder}`
  return `${kind} ${t('outside.at')} ${d.address ?? ''}${folder}`
}
