<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Notice } from '../../../shared/types'
import { api, data } from '../../api'
import { everyIntake, useDeed } from '../../load'
import DialogSheet from '../../parts/DialogSheet.vue'
import { useIntake } from '../intake'

/** Notices of other intakes, to begin with one of them; what it carries goes along where this intake has it too. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ take: [notice: Notice] }>()
const { intake, design } = useIntake()
const found = ref<{ intake: string; notices: Notice[] }[]>()
const { problem, run } = useDeed()
watch(open, (now) => {
  if (!now || found.value) return
  void run(async () => {
    const others = (await everyIntake()).filter((i) => i.id !== intake.value?.id)
    const designs = await Promise.all(
      others.map((i) => data(api.GET('/api/intakes/{id}', { params: { path: { id: i.id } } }))),
    )
    found.value = designs.map((i) => ({ intake: i.design.name, notices: i.design.notices }))
  })
})
function take(n: Notice) {
  const has = (key?: string) => !key || !!design.value?.documents.some((d) => d.key === key)
  const asks = (key?: string) => !key || !!design.value?.form.fields.some((f) => f.key === key.split('.')[0])
  const copy = JSON.parse(JSON.stringify(n)) as Notice
  emit('take', { ...copy, attach: copy.attach.filter((e) => has(e.document) && asks(e.files)) })
  open.value = false
}
</script>

<template>
  <DialogSheet v-model="open" :title="$t('notices.copyFromAnother')">
    <p v-if="problem" role="alert" class="font-semibold text-madder">✕ {{ problem }}</p>
    <p v-else-if="!found" role="status" class="text-soft">{{ $t('notices.looking') }}</p>
    <p v-else-if="!found.length">{{ $t('notices.noOtherIntake') }}</p>
    <section v-for="f in found ?? []" :key="f.intake" class="mb-3">
      <h3 class="text-[13px] font-normal text-soft">{{ f.intake }}</h3>
      <ul>
        <li v-for="n in f.notices" :key="n.key">
          <button type="button" class="link min-h-[28px]" @click="take(n)">{{ n.name }}</button>
        </li>
      </ul>
    </section>
  </DialogSheet>
</template>
