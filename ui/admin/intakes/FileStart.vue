<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Design, Field } from '../../shared/types'
import { api, data, octets, words } from '../api'
import { fieldKinds } from '../workspace/kinds'
import ListChoice from '../parts/ListChoice.vue'
import FileEntry from '../parts/FileEntry.vue'

/** Begins with a file: a table's header row, a JSON Schema, a document with placeholders, or an intake that was kept as a file. */
const emit = defineEmits<{ read: [name: string, fields: Field[]]; design: [design: Design]; file: [text: string] }>()
const problem = ref('')
const found = ref<Field[]>([])
const from = ref('')
const examples = ref<Design[]>([])
onMounted(async () => {
  examples.value = await data(api.GET('/api/examples'))
})

async function take(file: File) {
  problem.value = ''
  found.value = []
  try {
    if (/\.json$/i.test(file.name)) {
      const text = await file.text()
      // What is meant as a design goes as it is, so that what is wrong with it is told by its line.
      if (/^\s*\{[^{[]*"amberseal"\s*:/.test(text)) {
        emit('file', text)
        return
      }
      show(file.name, await data(api.POST('/api/questions/schema', octets(file))))
    } else if (/\.(docx|pdf)$/i.test(file.name)) {
      const query = { name: file.name }
      emit('design', await data(api.POST('/api/files/intake', { params: { query }, ...octets(file) })))
    } else {
      show(file.name, await data(api.POST('/api/questions/table', octets(file))))
    }
  } catch (err) {
    problem.value = words(err)
  }
}
function show(file: string, got: { name: string; fields: Field[] }) {
  found.value = got.fields
  from.value = file
  emit('read', got.name || file.replace(/\.\w+$/, ''), got.fields)
}
</script>

<template>
  <div>
    <label class="mb-2 block text-soft"
      >{{ $t('intakes.beginExample') }}
      <ListChoice
        data-example
        model-value=""
        @update:model-value="$event && emit('design', examples[Number($event)]!)"
        :label="$t('intakes.beginExample')"
        inline
        :options="[
          { value: '', words: $t('intakes.choose') },
          ...Object.entries(examples).map(([i, x]) => ({ value: i, words: x.name })),
        ]"
      />
    </label>
    <p class="text-soft">
      {{ $t('intakes.beginFileTableCsvXlsx') }}
      <FileEntry
        :label="$t('intakes.chooseFile')"
        accept=".csv,.xlsx,.json,.tsv,.txt,.docx,.pdf"
        class="ml-2"
        @file="take"
      />
    </p>
    <p v-if="problem" role="alert" class="mt-1 font-semibold text-madder">✕ {{ problem }}</p>
    <p v-if="found.length" role="status" class="mt-2">
      {{ $t('intakes.gives', { from, n: found.length }, found.length) }}
      <span class="text-soft">{{ found.map((f) => `${f.label} (${fieldKinds[f.kind]})`).join(', ') }}</span>
    </p>
  </div>
</template>
