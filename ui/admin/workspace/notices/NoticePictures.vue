<script setup lang="ts">
import { computed } from 'vue'
import type { Notice } from '../../../shared/types'
import EntryCell from '../../parts/EntryCell.vue'
import OnSwitch from '../../parts/OnSwitch.vue'
import PictureChooser from '../../parts/PictureChooser.vue'
import { useIntake } from '../intake'

/** The pictures of a notice, over its words or below them. */
const notice = defineModel<Notice>({ required: true })
const { mark } = useIntake()
const all = computed(() => notice.value.pictures ?? [])

type Picture = NonNullable<Notice['pictures']>[number]
function put(i: number, to: Partial<Picture>) {
  notice.value.pictures = all.value.map((p, n) => {
    if (n !== i) return p
    const next = { ...p, ...to }
    if (!next.alt) delete next.alt
    if (!next.below) delete next.below
    return next
  })
}
function choose(i: number, picture: string | undefined) {
  mark()
  if (picture && i < all.value.length) put(i, { picture })
  else if (picture) notice.value.pictures = [...all.value, { picture }]
  else {
    const left = all.value.filter((_, n) => n !== i)
    if (left.length) notice.value.pictures = left
    else delete notice.value.pictures
  }
}
</script>

<template>
  <div class="grid gap-4">
    <div v-for="(p, i) in all" :key="p.picture" class="grid gap-2">
      <PictureChooser :model-value="p.picture" @update:model-value="choose(i, $event)" />
      <EntryCell
        live
        :label="$t('notices.pictureShows')"
        :help="$t('notices.pictureShowsHelp')"
        :model-value="p.alt ?? ''"
        @update:model-value="put(i, { alt: $event })"
      />
      <OnSwitch
        :model-value="p.below ?? false"
        :label="$t('notices.pictureBelow')"
        @update:model-value="put(i, { below: $event })"
      />
    </div>
    <PictureChooser :model-value="undefined" @update:model-value="choose(all.length, $event)" />
  </div>
</template>
