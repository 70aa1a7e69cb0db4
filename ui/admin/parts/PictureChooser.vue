<script setup lang="ts">
import { ref } from 'vue'
import { api, chosenFile, data, octets, words } from '../api'

/** Chooses a PNG or JPEG, or with `shapes` also an SVG, from this device and keeps it in the house; the model is its name. */
defineProps<{ shapes?: boolean }>()
const name = defineModel<string | undefined>()
const problem = ref('')
const busy = ref(false)

async function take(e: Event) {
  const file = chosenFile(e)
  if (!file) return
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
      alt="The chosen picture"
      class="mb-2 max-h-[72px] max-w-[220px] border border-faint bg-white p-1"
    />
    <div class="flex flex-wrap items-center gap-4">
      <label class="link cursor-pointer focus-within:outline-2 focus-within:outline-carbon">
        {{ busy ? 'Sending the picture' : name ? 'Choose another' : 'Choose a picture' }}
        <input
          type="file"
          class="sr-only"
          :accept="`image/png,image/jpeg${shapes ? ',image/svg+xml' : ''}`"
          @change="take"
        />
      </label>
      <button v-if="name" type="button" class="link" @click="name = undefined">Remove it</button>
    </div>
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
  </div>
</template>
