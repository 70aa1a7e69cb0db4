<script setup lang="ts">
import { useIntake } from '../intake'
import { plainName } from '../names'
import { t } from '../../words'

/** The numbers and words with a name, such as a tax rate: said once, used in every formula. */
const { design, mark } = useIntake()

function add() {
  mark()
  const list = (design.value!.form.constants ??= [])
  let n = list.length + 1
  while (list.some((c) => c.key === `constant_${n}`)) n++
  list.push({ key: `constant_${n}`, label: t('form.constant', { n }), value: '' })
}
/** The name follows what the constant is, until a formula uses it or somebody writes another. */
function renamed(i: number) {
  const form = design.value!.form
  const c = form.constants![i]!
  if (!/^constant_\d+$/.test(c.key) || JSON.stringify(form.fields).includes(c.key)) return
  const taken = new Set([...form.fields.map((f) => f.key), ...form.constants!.map((x) => x.key)])
  const wish = plainName(c.label, c.key).replace(/^(?=\d)/, 'c_')
  let key = wish
  for (let n = 2; taken.has(key) && key !== c.key; n++) key = `${wish}_${n}`
  c.key = key
}
function drop(i: number) {
  mark()
  design.value!.form.constants!.splice(i, 1)
}
</script>

<template>
  <div class="grid grid-cols-[58px_1fr] border-b border-rule">
    <span class="ledger"></span>
    <div class="px-3.5 py-2">
      <p class="flex items-baseline gap-4">
        <span class="text-soft">{{ $t('form.constantsFormulas') }}</span>
        <button type="button" class="link text-[13px]" @click="add">{{ $t('form.addOne') }}</button>
      </p>
      <div v-for="(c, i) in design!.form.constants ?? []" :key="i" class="words mt-1" data-constant>
        <input v-model="c.label" class="word w-[180px]" :aria-label="$t('form.whatConstant')" @change="renamed(i)" />
        <label
          >{{ $t('form.is') }}
          <input
            v-model="c.value"
            class="word w-[80px] text-right"
            :aria-label="$t('form.valueConstant')"
            placeholder="10%"
        /></label>
        <label
          >{{ $t('form.as') }}
          <input
            v-model="c.key"
            class="word w-[120px] font-mono text-[13px]"
            :aria-label="$t('form.nameFormulas')"
            spellcheck="false"
        /></label>
        <button type="button" class="link text-[13px]" @click="drop(i)">
          {{ $t('form.remove2') }}<span class="sr-only"> {{ c.label }}</span>
        </button>
      </div>
    </div>
  </div>
</template>
