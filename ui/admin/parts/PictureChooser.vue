<script setup lang="ts">
import { ref } from 'vue'
import { api, data, octets, words } from '../api'
import FileEntry from './FileEntry.vue'

/** Chooses a PNG or JPEG, or with `shapes` also an SVG, from this device and keeps it in the house; the model is its name. */
defineProps<{ shapes?: boolean }>()
const name = defineModel<string | undefined>()
const problem = ref('')
const busy = ref(false)

async function take(file: File) {
  busy.value = true
  problem.value = ''
  try {
    const kept = await data(api.POST('/api/pictures', octets(file)))
    name.value = kept.name
  } catch (err) {
    problem.value = words(err)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div>
    <img
      v-if="name"
      :src="`/api/pictures/${name}`"
      :alt="$t('parts.chosenPicture')"
      class="mb-2 max-h-[72px] max-w-[220px] border border-faint bg-white p-1"
    />
    <div class="flex flex-wrap items-center gap-4">
      <FileEntry
        plain
        :label="busy ? $t('parts.sendingPicture') : name ? $t('parts.chooseAnother') : $t('parts.choosePicture')"
        :accept="`image/png,image/jpeg${shapes ? ',image/svg+xml' : ''}`"
        :busy="busy"
        @file="take"
      />
      <button v-if="name" type="button" class="link" @click="name = undefined">{{ $t('parts.remove2') }}</button>
    </div>
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
  </div>
</template>
