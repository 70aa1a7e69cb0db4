<script setup lang="ts">
import NextLine from '../../parts/NextLine.vue'
import { computed, ref } from 'vue'
import type { RunningRegister } from '../../../shared/types'
import { useLocked } from '../../parts/locked'
import PhraseLine from '../../parts/PhraseLine.vue'
import ScriptList from '../../parts/ScriptList.vue'
import TakeBack, { type Gone } from '../../parts/TakeBack.vue'
import { t } from '../../words'
import { useIntake } from '../intake'
import { asks } from '../kinds'
import RegisterSettings from './RegisterSettings.vue'

/** The running registers of an intake: spreadsheets at destinations with a line for each submission. */
const selected = defineModel<number | undefined>('selected')
const props = defineProps<{ destinations: { key: string; name: string }[] }>()
const { design, mark, undo } = useIntake()
const locked = useLocked()
const registers = computed(() => design.value?.registers ?? [])
const called = (key: string) => props.destinations.find((d) => d.key === key)?.name ?? key

function add(after = registers.value.length - 1) {
  if (!design.value) return
  mark()
  const taken = registers.value.map((r) => r.key)
  let n = registers.value.length + 1
  while (taken.includes(`register-${n}`)) n++
  const made: RunningRegister = {
    key: `register-${n}`,
    name: t('filing.register', { n }),
    as: 'xlsx',
    path: [{ field: '@intake' }, { text: '/' }, { field: '@intake' }],
    columns: [
      { of: '@number' },
      { of: '@received' },
      ...design.value.form.fields
        .filter((f) => asks(f.kind))
        .slice(0, 4)
        .map((f) => ({ of: f.key })),
      ...(design.value.filings.length ? [{ of: '@filed' }] : []),
    ],
  }
  design.value.registers = [...registers.value.slice(0, after + 1), made, ...registers.value.slice(after + 1)]
  selected.value = after + 1
}
function move(from: number, to: number) {
  mark()
  const all = [...registers.value]
  all.splice(to, 0, ...all.splice(from, 1))
  design.value!.registers = all
}
const gone = ref<Gone>()
function remove(i: number) {
  mark()
  const was = registers.value[i]
  const rest = registers.value.filter((_, n) => n !== i)
  if (rest.length) design.value!.registers = rest
  else delete design.value!.registers
  selected.value = undefined
  gone.value = { words: t('filing.registerRemoved', { name: was?.name ?? '' }), back: undo }
}
</script>

<template>
  <section>
    <h2 class="border-b border-faint px-3.5 pt-6 pb-2 pl-[72px] text-base">{{ $t('filing.registers') }}</h2>
    <TakeBack v-model="gone" />
    <ScriptList
      v-model:selected="selected"
      :lines="registers"
      :kind="() => $t('filing.register2')"
      :id-of="(r: RunningRegister) => r.key"
      :noun="$t('filing.register2')"
      @add="add"
      @move="move"
      @remove="remove"
    >
      <template #sentence="{ line }">
        <span v-if="line.when" class="mr-2 text-amber-ink">{{ $t('filing.when', { when: line.when }) }}</span>
        <span class="font-semibold">{{ line.name }}</span>
        {{ $t('filing.as') }} <PhraseLine :spans="line.path" />
        <span v-if="line.to" class="text-soft"> · {{ called(line.to) }}</span>
      </template>
      <template #settings="{ index }">
        <RegisterSettings
          :model-value="registers[index]!"
          :destinations="destinations"
          @update:model-value="design!.registers![index] = $event"
        />
      </template>
    </ScriptList>
    <NextLine :number="registers.length + 1">
      <p class="px-3.5 py-2">
        <button v-if="!locked" class="link" @click="add()">{{ $t('filing.addRegister') }}</button>
        <span v-if="!registers.length" class="block text-[13px] text-soft">{{ $t('filing.noRegister') }}</span>
      </p>
    </NextLine>
  </section>
</template>
