import { computed, ref, watch } from 'vue'
import { lookOrder } from '../../../shared/kinds.gen'
import type { Design, PaperDocument, Version } from '../../../shared/types'
import { api, data } from '../../api'
import { asDay } from '../../times'
import { useIntake } from '../intake'
import { lookName, usualLook } from '../kinds'
import { t } from '../../words'

/**
 * What stands beside a document's proof: nothing, the same document in another look, or as it was in an earlier version,
 * from which it can be taken back.
 */
export function useBeside(key: () => string) {
  const { design, intake, id, mark } = useIntake()
  const choice = ref('')
  const versions = ref<Version[]>([])
  watch(
    () => intake.value?.version,
    async () => {
      try {
        const all = await data(api.GET('/api/intakes/{id}/versions', { params: { path: { id } } }))
        versions.value = all.filter((v) => v.version > 0)
      } catch {
        versions.value = []
      }
    },
    { immediate: true },
  )
  const doc = computed(() => design.value?.documents.find((d) => d.key === key()))
  const choices = computed(() => [
    { value: '', words: t('documents.nothing') },
    ...lookOrder.filter((l) => l !== (doc.value?.look ?? usualLook)).map((l) => ({ value: l, words: lookName(l) })),
    ...versions.value.map((v) => ({
      value: `v${v.version}`,
      words: t('documents.version', { version: v.version, asDay: v.published ? `, ${asDay(v.published)}` : '' }),
    })),
  ])

  const once = ref<Design>() // the design of the chosen version
  const number = computed(() => (/^v\d+$/.test(choice.value) ? Number(choice.value.slice(1)) : 0))
  watch(number, async (version) => {
    once.value = undefined
    if (!version) return
    const got = await data(api.GET('/api/intakes/{id}/versions/{version}', { params: { path: { id, version } } }))
    if (number.value === version) once.value = got
  })
  const wasThere = computed(() => once.value?.documents.find((d) => d.key === key()))

  const besideDesign = computed<Design | undefined>(() => {
    if (!choice.value || !design.value) return undefined
    if (number.value) return wasThere.value ? once.value : undefined
    return {
      ...design.value,
      documents: design.value.documents.map((d) => (d.key === key() ? { ...d, look: choice.value } : d)),
    }
  })
  const said = computed(() => {
    if (!number.value) return t('documents.leftAsRightAs', { lookName: lookName(choice.value) })
    if (once.value && !wasThere.value) return t('documents.versionHadNoDocumentName', { number: number.value })
    return t('documents.leftAsRightAsWas', { number: number.value })
  })
  const takeBack = computed(() => {
    const was = wasThere.value
    if (!number.value || !was) return undefined
    return () => {
      mark()
      const at = design.value!.documents.findIndex((d) => d.key === key())
      if (at >= 0) design.value!.documents[at] = JSON.parse(JSON.stringify(was)) as PaperDocument
      choice.value = ''
    }
  })
  watch(key, () => (choice.value = ''))
  return { choice, choices, besideDesign, said, takeBack }
}
