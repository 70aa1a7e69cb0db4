<script setup lang="ts">
import { ref } from 'vue'
import type { House } from '../../shared/types'
import { api, data, octets, words } from '../api'
import FileEntry from '../parts/FileEntry.vue'
import { t } from '../words'

/** The house's own fonts: families with up to four faces, taken in as TrueType or OpenType files. */
const house = defineModel<House>({ required: true })
const busy = ref('')
const problem = ref('')
type Font = NonNullable<House['fonts']>[number]
const faces = {
  regular: t('house.regular'),
  bold: t('house.bold'),
  italic: 'italic',
  boldItalic: t('house.boldItalic'),
} as const
type FaceName = keyof typeof faces

async function take(file: File, family?: Font, face: FaceName = 'regular') {
  busy.value = file.name
  problem.value = ''
  try {
    const kept = await data(api.POST('/api/fonts', octets(file)))
    if (family) family[face] = kept.name
    else house.value.fonts = [...(house.value.fonts ?? []), { family: freeName(kept.family), regular: kept.name }]
  } catch (err) {
    problem.value = `${file.name}: ${words(err)}`
  } finally {
    busy.value = ''
  }
}
function freeName(family: string) {
  const taken = (house.value.fonts ?? []).map((f) => f.family)
  const name = family || t('house.ownFont')
  let n = 1
  while (taken.includes(n === 1 ? name : `${name} ${n}`)) n++
  return n === 1 ? name : `${name} ${n}`
}
function remove(i: number) {
  const [gone] = house.value.fonts!.splice(i, 1)
  if (house.value.font === gone?.family) delete house.value.font
}
</script>

<template>
  <div>
    <span class="mb-0.5 block text-[13px] text-soft">{{ $t('house.fontsOurOwn') }}</span>
    <p v-if="!house.fonts?.length" class="text-soft">{{ $t('house.truetypeOpentypeFilesWhoseLicence') }}</p>
    <div v-for="(f, i) in house.fonts ?? []" :key="i" class="mb-2 border-l-2 border-rule pl-3" data-font>
      <input v-model="f.family" class="word font-semibold" :aria-label="$t('house.nameFamily', { i: i + 1 })" />
      <p class="words text-[13px]">
        <FileEntry
          v-for="(name, face) in faces"
          :key="face"
          plain
          accept=".ttf,.otf"
          :label="`${f[face] ? '●' : '○'} ${name}`"
          :says="$t('house.chooseFile', { family: f.family, name })"
          @file="take($event, f, face)"
        />
        <button type="button" class="link" @click="remove(i)">
          {{ $t('house.remove') }}<span class="sr-only"> {{ f.family }}</span>
        </button>
      </p>
    </div>
    <FileEntry
      plain
      accept=".ttf,.otf"
      :label="busy ? $t('house.reading', { busy }) : $t('house.addFont')"
      :busy="!!busy"
      @file="take($event)"
    />
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
  </div>
</template>
