<script setup lang="ts">
import { computed, ref } from 'vue'
import { fieldSettings } from '../../../shared/settings'
import type { Field } from '../../../shared/types'
import { useIntake } from '../intake'
import ListChoice from '../../parts/ListChoice.vue'
import { languages } from '../../languages'

/** The form's words in other languages, place by place. */
const { design } = useIntake()
const all = languages()
const language = ref('de')

/** Every text that can be translated: its place and its words, as core/ask/form lists them. */
const texts = computed(() => {
  const out: { place: string; words: string }[] = []
  const add = (place: string, words?: string) => words && out.push({ place, words })
  const fields = (list: Field[], at: string) => {
    for (const f of list) {
      const name = at + f.key
      add(`${name}/label`, f.label)
      add(`${name}/help`, f.help)
      const own = fieldSettings(f)
      add(`${name}/placeholder`, own.placeholder)
      add(`${name}/message`, f.message)
      for (const c of own.choices ?? []) add(`${name}/choice/${c.value}`, c.label)
      fields(own.fields ?? [], `${name}.`)
    }
  }
  add('intro', design.value?.form.intro)
  fields(design.value?.form.fields ?? [], '')
  return out
})
const done = computed(
  () => texts.value.filter((t) => design.value?.form.translations?.[language.value]?.[t.place]).length,
)

function put(place: string, words: string) {
  const form = design.value!.form
  const texts = (form.translations ??= {})
  const mine = (texts[language.value] ??= {})
  if (words) mine[place] = words
  else Reflect.deleteProperty(mine, place)
  if (!Object.keys(mine).length) Reflect.deleteProperty(texts, language.value)
  if (!Object.keys(texts).length) delete form.translations
}
</script>

<template>
  <div class="p-5">
    <p class="mb-3 flex flex-wrap items-baseline gap-3">
      <label
        >{{ $t('form.formsWords') }}
        <ListChoice
          v-model="language"
          :label="$t('form.formsWords')"
          inline
          :options="Object.entries(all).map(([l, name]) => ({ value: l, words: name }))"
        />
      </label>
      <span class="text-soft">{{ $t('form.translatedOthersStayAsThey', { done, texts: texts.length }) }}</span>
    </p>
    <table class="w-full table-fixed border-collapse bg-sheet text-left text-[13px]">
      <tbody>
        <tr v-for="text in texts" :key="text.place" class="border-b border-faint">
          <th scope="col" class="w-1/2 px-2 py-1 font-normal whitespace-pre-line">{{ text.words }}</th>
          <td class="px-2 py-1">
            <input
              class="word w-full"
              dir="auto"
              :aria-label="$t('form.in', { words: text.words, language: all[language] })"
              :value="design!.form.translations?.[language]?.[text.place] ?? ''"
              @change="put(text.place, ($event.target as HTMLInputElement).value.trim())"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
