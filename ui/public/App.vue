<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import LostPart from '../shared/sheet/LostPart.vue'
import { part } from '../shared/part'
import { fieldSettings } from '../shared/settings'
import FormSheet from '../shared/sheet/FormSheet.vue'
import { provideSheet } from '../shared/sheet/sheet'
import { direction, filled, ownLanguage, sameLanguage } from '../shared/texts'
import { pathPart } from './address'
import { minutesFor } from './estimate'
import GoOnElsewhere from './GoOnElsewhere.vue'
import { useRespondent } from './respondent'
import { standBack, stepForward, takeOver } from './served'

const slug = pathPart(2)
const r = useRespondent(slug)
const {
  stage,
  form,
  texts,
  answers,
  errors,
  problem,
  sending,
  receipt,
  arrival,
  corrected,
  pages,
  page,
  current,
  trap,
} = r
provideSheet(r.sheet)

// Needed at the end only: fetched once the form can be filled, so that its first field comes sooner.
const readThrough = () => import('./ReadThrough.vue')
const thanks = () => import('./Thanks.vue')
const ReadThrough = part(readThrough, LostPart)
const Thanks = part(thanks, LostPart)
const RemindMe = part(() => import('./RemindMe.vue'), LostPart)
watch(stage, (now) => now === 'asking' && setTimeout(() => void Promise.allSettled([readThrough(), thanks()]), 500), {
  once: true,
})
onMounted(r.load)
standBack()
const served = watch(stage, async (now) => {
  if (now !== 'asking') return void stepForward()
  served()
  await nextTick()
  await takeOver((key, value) => {
    answers.value = { ...answers.value, [key]: value }
    r.touch(key)
  }, nextTick)
})

const summary = ref<HTMLElement>()
const minutes = computed(() => minutesFor(form.value?.form.fields ?? []))
const title = ref<HTMLElement>()
const names: Record<string, string> = { en: 'English', de: 'Deutsch', fr: 'Français', es: 'Español', pl: 'Polski' }
const nameOf = (l: string) => names[l.split('-')[0]!] ?? l

// The page's own words may be in another language than the page, and what is asked in a third.
const own = computed(() => {
  const language = form.value?.language
  const words = ownLanguage(language ?? 'en')
  return language && !sameLanguage(words, language) ? { lang: words, dir: direction(words) } : {}
})
const theirs = computed(() => {
  const f = form.value
  return f && !sameLanguage(f.words, f.language) ? { lang: f.words, dir: direction(f.words) } : {}
})
/** How a language stands in the menu: with that of the questions, where they are not translated. */
function inMenu(l: string): string {
  const f = form.value!
  if (f.translated || !sameLanguage(l, f.language)) return nameOf(l)
  return `${nameOf(l)} (${filled(texts.value.asksIn, { language: nameOf(f.words) })})`
}

/** The label of a path: its field's, and the row's number. */
function labelOf(path: string): string {
  const [key, row, column] = path.split('/')
  const field = form.value?.form.fields.find((f) => f.key === key)
  const inner = (field && fieldSettings(field).fields)?.find((f) => f.key === column)
  return inner ? `${field!.label} ${Number(row) + 1}, ${inner.label}` : (field?.label ?? path)
}
const wrong = computed(() =>
  Object.entries(errors.value).map(([path, message]) => ({ path, message, label: labelOf(path) })),
)
const pageName = (i: number) => {
  const p = pages.value[i]!
  return p.label || p.fields.find((f) => f.kind === 'section')?.label || form.value?.name
}
const day = (iso: string) =>
  new Intl.DateTimeFormat(form.value?.language ?? 'en', { dateStyle: 'long' }).format(new Date(iso))

// A new stage or page begins at its top, also for those who cannot see it.
watch([stage, page], async ([now], [before]) => {
  if (before === 'loading' && now === 'asking') return
  await nextTick()
  if (stage.value === 'asking' && wrong.value.length) summary.value?.focus()
  else title.value?.focus()
  window.scrollTo(0, 0)
})

async function forward() {
  if (await r.forward()) return
  await nextTick()
  summary.value?.focus()
}

async function goTo(path: string) {
  const at = r.pageOf(path)
  if (at >= 0) page.value = at
  await nextTick()
  const field = document.getElementById(path)
  const control = field?.matches('fieldset')
    ? field.querySelector<HTMLElement>('input, textarea, select, button')
    : field
  control?.focus()
  field?.scrollIntoView({ block: 'center' })
}

const sure = ref(false)
function clear() {
  if (!sure.value) {
    sure.value = true
    return
  }
  sure.value = false
  r.clear()
  title.value?.focus()
}
</script>

<template>
  <main class="mx-auto max-w-[680px] px-3 py-6 sm:py-10" v-bind="own">
    <img v-if="form?.cover" :src="`/p/${form.cover}`" alt="" class="house-cover" />
    <div class="house-edge bg-sheet px-5 py-7 sm:px-10 sm:py-9">
      <div v-if="form" class="mb-3 flex flex-wrap items-center gap-x-4 text-soft">
        <img v-if="form.logo" :src="`/p/${form.logo}`" :alt="form.house" class="house-logo" />
        <p v-else v-bind="theirs">{{ form.house }}</p>
        <label v-if="stage === 'asking'" class="ms-auto text-[13px] print:hidden">
          <span class="sr-only">{{ texts.language }}</span>
          <select
            class="min-h-[28px] max-w-full bg-transparent"
            :value="form.language.split('-')[0]"
            @change="r.setLanguage(($event.target as HTMLSelectElement).value)"
          >
            <option v-if="!form.languages.includes(form.language.split('-')[0]!)" :value="form.language.split('-')[0]">
              {{ inMenu(form.language) }}
            </option>
            <option v-for="l in form.languages" :key="l" :value="l" :lang="l">{{ inMenu(l) }}</option>
          </select>
        </label>
      </div>
      <h1 ref="title" tabindex="-1" class="house-title mb-6 text-[28px] leading-tight outline-none">
        <template v-if="stage === 'missing'">{{ texts.missingTitle }}</template>
        <template v-else-if="stage === 'linkless'">{{ texts.linklessTitle }}</template>
        <template v-else-if="stage === 'unreachable'">{{ texts.unreachableTitle }}</template>
        <template v-else-if="stage === 'loading'">{{ texts.moment }}</template>
        <template v-else-if="stage === 'reading'">{{ texts.readTitle }}</template>
        <template v-else-if="stage === 'sent'">{{ corrected ? texts.correctedTitle : texts.thanks }}</template>
        <template v-else-if="stage === 'again'">{{ texts.againTitle }}</template>
        <span v-else v-bind="theirs">{{ form?.name }}</span>
      </h1>

      <p v-if="stage === 'missing'">{{ texts.missing }}</p>
      <p v-else-if="stage === 'linkless'">{{ texts.linkless }}</p>
      <template v-else-if="stage === 'unreachable'">
        <p class="mb-4">{{ texts.unreachable }}</p>
        <button class="button button-main" @click="r.load">{{ texts.again }}</button>
      </template>
      <template v-else-if="stage === 'closed' && form">
        <p v-for="(p, i) in form.paused" :key="i" class="mb-4 whitespace-pre-line" v-bind="theirs">{{ p }}</p>
        <p v-if="!form.paused.length">{{ form.standing === 'open' ? texts.closed : texts[form.standing] }}</p>
      </template>

      <form v-else-if="stage === 'asking' && form && current" novalidate @submit.prevent="forward">
        <p v-if="page === 0" class="-mt-4 mb-6 text-[13px] text-soft" data-minutes>
          {{ minutes === 1 ? texts.minuteOne : filled(texts.minutes, { n: minutes }) }}
        </p>
        <p v-if="corrected" class="mb-6 border-s-4 border-amber bg-amber-wash px-4 py-3" data-corrected>
          {{ filled(texts.correcting, { number: corrected.number }) }}
        </p>
        <nav v-if="pages.length > 1" class="mb-6" :aria-label="filled(texts.step, { n: page + 1, all: pages.length })">
          <ol class="flex flex-wrap gap-x-5 gap-y-1 pb-2">
            <li
              v-for="(_, i) in pages"
              :key="i"
              class="flex gap-2"
              :class="i === page ? 'font-semibold' : 'text-soft'"
              :aria-current="i === page ? 'step' : undefined"
              v-bind="theirs"
            >
              <span class="font-title">{{ i + 1 }}</span>
              <button v-if="i < page" type="button" class="link min-h-[24px]" @click="page = i">
                {{ pageName(i) }}
              </button>
              <span v-else>{{ pageName(i) }}</span>
            </li>
          </ol>
          <progress class="house-progress" :value="page + 1" :max="pages.length" aria-hidden="true"></progress>
        </nav>
        <div
          v-if="wrong.length"
          ref="summary"
          role="alert"
          tabindex="-1"
          class="mb-6 border-2 border-madder px-4 py-3"
          data-summary
        >
          <p class="font-semibold">
            {{ wrong.length === 1 ? texts.wrongOne : filled(texts.wrongMany, { n: wrong.length }) }}
          </p>
          <ul class="mt-1">
            <li v-for="w in wrong" :key="w.path">
              <a class="link" :href="`#${w.path}`" v-bind="theirs" @click.prevent="goTo(w.path)">{{ w.label }}</a>:
              {{ w.message }}
            </li>
          </ul>
        </div>
        <div v-bind="theirs">
          <p v-if="page === 0 && form.form.intro" class="mb-6 whitespace-pre-line">{{ form.form.intro }}</p>
          <FormSheet v-model="answers" :fields="current.fields" @touch="r.touch" />
        </div>
        <div class="sr-only" aria-hidden="true">
          <input v-model="trap" name="website_address" tabindex="-1" autocomplete="off" />
        </div>
        <p v-if="problem" role="alert" class="mt-5 border-2 border-madder px-4 py-3 font-semibold">✕ {{ problem }}</p>
        <div class="mt-7 flex flex-wrap gap-3 print:hidden">
          <button class="button button-main min-h-[44px] px-6">
            {{ page < pages.length - 1 ? texts.next : texts.readButton }}
          </button>
          <button v-if="page > 0" type="button" class="button min-h-[44px] px-6" @click="r.back">
            {{ texts.back }}
          </button>
        </div>
        <p class="mt-4 text-[13px] text-soft print:hidden">
          {{ texts.kept }}
          <button type="button" class="link min-h-[24px]" data-clear @click="clear" @blur="sure = false">
            {{ sure ? texts.clearSure : texts.clearAll }}
          </button>
        </p>
        <GoOnElsewhere class="print:hidden" :keep="r.keepElsewhere" :texts="texts" />
        <RemindMe
          v-if="form.reminders && !corrected"
          class="print:hidden"
          :remind="r.remind"
          :email="r.email.value"
          :language="form.language"
          :texts="texts"
        />
      </form>

      <ReadThrough
        v-else-if="stage === 'reading' && form"
        :form="form"
        :answers="answers"
        :problem="problem"
        :sending="sending"
        :preview="r.preview"
        @back="r.change"
        @send="r.send"
      />
      <Thanks
        v-else-if="(stage === 'sent' || stage === 'again') && receipt"
        :receipt="receipt"
        :texts="texts"
        :again="stage === 'again'"
        :corrected="!!corrected"
        :arrival="stage === 'sent' ? arrival : ''"
        :day="day(receipt.received)"
        @again="r.again"
      />
    </div>
  </main>
</template>
