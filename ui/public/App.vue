<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import FormSheet from '../shared/sheet/FormSheet.vue'
import ReadThrough from './ReadThrough.vue'
import { useRespondent } from './respondent'
import Thanks from './Thanks.vue'

const slug = decodeURIComponent(location.pathname.split('/')[2] ?? '')
const r = useRespondent(slug)
const { stage, form, answers, errors, problem, sending, receipt } = r
onMounted(r.load)

const summary = ref<HTMLElement>()
const title = ref<HTMLElement>()
const wrong = computed(() =>
  Object.entries(errors.value).map(([key, message]) => ({
    key,
    message,
    label: form.value?.form.fields.find((f) => f.key === key)?.label ?? key,
  })),
)

// A new stage begins at its top, also for those who cannot see it.
watch(stage, async (now, before) => {
  if (before === 'loading') return
  await nextTick()
  if (now === 'asking' && wrong.value.length) summary.value?.focus()
  else title.value?.focus()
  window.scrollTo(0, 0)
})

async function readThrough() {
  if (r.readThrough()) return
  await nextTick()
  summary.value?.focus()
}

function clear(key: string) {
  errors.value = Object.fromEntries(Object.entries(errors.value).filter(([k]) => k !== key))
}

function goTo(key: string) {
  const field = document.getElementById(key)
  const control = field?.matches('fieldset') ? field.querySelector('input') : field
  control?.focus()
  field?.scrollIntoView({ block: 'center' })
}
</script>

<template>
  <main class="mx-auto max-w-[680px] px-3 py-6 sm:py-10">
    <div class="border-t-4 border-ink bg-sheet px-5 py-7 sm:px-10 sm:py-9">
      <p v-if="form" class="text-soft">{{ form.house }}</p>
      <h1 ref="title" tabindex="-1" class="mb-6 text-[28px] leading-tight outline-none">
        <template v-if="stage === 'missing'">There is no form at this address</template>
        <template v-else-if="stage === 'unreachable'">The form could not be loaded</template>
        <template v-else-if="stage === 'loading'">One moment</template>
        <template v-else-if="stage === 'reading'">Read it through</template>
        <template v-else-if="stage === 'sent'">Thank you</template>
        <template v-else>{{ form?.name }}</template>
      </h1>

      <p v-if="stage === 'missing'">Check the address, or ask whoever gave it to you.</p>
      <template v-else-if="stage === 'unreachable'">
        <p class="mb-4">There is no connection at present.</p>
        <button class="button button-main" @click="r.load">Try again</button>
      </template>
      <p v-else-if="stage === 'closed'">This form is closed and takes no answers at present.</p>

      <form v-else-if="stage === 'asking' && form" novalidate @submit.prevent="readThrough">
        <div
          v-if="wrong.length"
          ref="summary"
          role="alert"
          tabindex="-1"
          class="mb-6 border-2 border-madder px-4 py-3"
          data-summary
        >
          <p class="font-semibold">
            {{ wrong.length === 1 ? 'One answer needs' : `${wrong.length} answers need` }} another look
          </p>
          <ul class="mt-1">
            <li v-for="w in wrong" :key="w.key">
              <a class="link" :href="`#${w.key}`" @click.prevent="goTo(w.key)">{{ w.label }}</a>: {{ w.message }}
            </li>
          </ul>
        </div>
        <FormSheet v-model="answers" :form="form.form" :errors="errors" :currency="form.currency" @touch="clear" />
        <button class="button button-main min-h-[44px] px-6">Read it through</button>
      </form>

      <ReadThrough
        v-else-if="stage === 'reading' && form"
        :form="form.form"
        :answers="answers"
        :language="form.language"
        :problem="problem"
        :sending="sending"
        @back="stage = 'asking'"
        @send="r.send"
      />
      <Thanks v-else-if="stage === 'sent' && receipt" :receipt="receipt" @again="r.again" />
    </div>
  </main>
</template>
