<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Block, BlockKind, ProofAnswers } from '../../../shared/types'
import { api, data } from '../../api'
import PhraseLine from '../../parts/PhraseLine.vue'
import ScriptList from '../../parts/ScriptList.vue'
import { useIntake } from '../intake'
import { blockKindOrder, blockKinds } from '../kinds'
import ProofAnswersChoice from '../ProofAnswersChoice.vue'
import SplitDesk from '../SplitDesk.vue'
import { useProof } from '../proof'
import { blockOf, documentOf, freshId } from './blocks'
import BlockSettings from './BlockSettings.vue'
import PageSettings from './PageSettings.vue'
import DocumentProof from './DocumentProof.vue'

const { design, mark } = useIntake()
const route = useRoute()
const router = useRouter()
const documents = computed(() => design.value?.documents ?? [])
const at = computed(() =>
  Math.max(
    0,
    documents.value.findIndex((d) => d.key === route.query.of),
  ),
)
const doc = computed(() => documents.value[at.value])
const selected = ref<number>()
const page = ref(false)
const answers = ref<ProofAnswers>('made-up')
const zoom = ref(0.8)

const marked = computed(() =>
  page.value ? 'footer' : selected.value === undefined ? undefined : doc.value?.blocks[selected.value]?.id,
)
function pick(block: string) {
  if (block === 'footer') {
    page.value = true
    selected.value = undefined
    return
  }
  const i = doc.value?.blocks.findIndex((b) => b.id === block) ?? -1
  if (i >= 0) {
    selected.value = i
    page.value = false
  }
}
function fromRoute() {
  if (typeof route.query.line === 'string') pick(route.query.line)
}
onMounted(fromRoute)
watch(() => route.query.line, fromRoute)
watch(selected, (v) => v !== undefined && (page.value = false))

const { proof, problem } = useProof(
  () => (design.value && doc.value ? { design: design.value, key: doc.value.key, answers: answers.value } : undefined),
  (q) => data(api.POST('/api/proofs/document', { body: q })),
)

function show(key: string) {
  selected.value = undefined
  page.value = false
  void router.replace({ query: { of: key } })
}
function addDocument() {
  mark()
  const taken = documents.value.map((d) => d.key)
  let n = documents.value.length + 1
  while (taken.includes(`document-${n}`)) n++
  design.value!.documents.push(documentOf(`document-${n}`, `Document ${n}`))
  show(`document-${n}`)
}
function removeDocument() {
  mark()
  const key = doc.value?.key
  design.value!.documents.splice(at.value, 1)
  for (const n of design.value!.notices) n.attach = n.attach.filter((k) => k !== key)
  design.value!.filings = design.value!.filings.filter((f) => f.document !== key)
  page.value = false
  void router.replace({ query: {} })
}
function add(kind: BlockKind, after = doc.value!.blocks.length - 1) {
  mark()
  const blocks = doc.value!.blocks
  blocks.splice(after + 1, 0, blockOf(kind, freshId(blocks, kind), design.value!.form.fields))
  selected.value = after + 1
}
function move(from: number, to: number) {
  mark()
  const blocks = doc.value!.blocks
  blocks.splice(to, 0, ...blocks.splice(from, 1))
}
function remove(i: number) {
  mark()
  doc.value!.blocks.splice(i, 1)
  selected.value = undefined
}
const kind = (b: Block) => blockKinds[b.kind]
const lookWords = { ledger: 'Ledger', letter: 'Letter', ticket: 'Ticket' }
const codeNames = {
  qr: 'QR code',
  datamatrix: 'Data Matrix',
  code128: 'Code 128',
  ean13: 'EAN-13',
  payment: 'Payment code',
}
function linesWords(b: Block) {
  const group = design.value?.form.fields.find((f) => f.key === b.rows)
  if (!group) return 'A line table without rows'
  const names = b.columns?.map((c) => c.label) ?? group.fields?.map((f) => f.label) ?? []
  return `Lines: ${names.join(', ')} for each row of ${group.label}`
}
function answersWords(b: Block) {
  return b.fields ? `${b.fields.length} chosen ${b.fields.length === 1 ? 'answer' : 'answers'}` : 'Every answer'
}
</script>

<template>
  <SplitDesk>
    <template #script>
      <div class="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule px-4 py-2.5 sm:pl-[76px]">
        <button
          v-for="(d, i) in documents"
          :key="d.key"
          :class="i === at ? 'border-b-2 border-ink font-semibold' : 'text-soft hover:text-ink'"
          :aria-pressed="i === at"
          @click="show(d.key)"
        >
          {{ d.name || d.key }}
        </button>
        <button class="ml-auto font-semibold text-carbon" @click="addDocument">Add a document</button>
      </div>
      <template v-if="doc">
        <div class="grid grid-cols-[58px_1fr] border-b border-faint" :class="{ 'bg-amber-wash': page }">
          <span class="ledger"></span>
          <div class="min-w-0 px-3.5 pr-4">
            <button
              class="flex min-h-[34px] w-full items-center gap-3 text-left"
              :aria-expanded="page"
              @click="((page = !page), (selected = undefined))"
            >
              <span class="min-w-0 grow truncate"
                >{{ lookWords[doc.look ?? 'ledger'] }},
                {{
                  doc.page.paper ??
                  (doc.page.width ? `${doc.page.width} × ${doc.page.height} mm` : 'the house’s paper')
                }}{{ doc.page.landscape ? ', landscape' : '' }}; footer <PhraseLine :spans="doc.footer"
              /></span>
              <span class="text-[13px] text-soft">page</span>
            </button>
            <PageSettings v-if="page" v-model="documents[at]!" @remove="removeDocument" />
          </div>
        </div>
        <ScriptList
          v-model:selected="selected"
          :lines="doc.blocks"
          :kind="kind"
          :id-of="(b: Block) => doc!.key + b.id"
          noun="block"
          @add="(i) => add('text', i)"
          @move="move"
          @remove="remove"
        >
          <template #sentence="{ line }">
            <span v-if="line.when" class="mr-2 text-amber-ink">when {{ line.when }}</span>
            <span v-if="line.kind === 'heading'" class="font-title text-[15px] font-semibold"
              ><PhraseLine :spans="line.text ?? []"
            /></span>
            <PhraseLine
              v-else-if="line.kind === 'text'"
              :spans="line.body?.[0]?.spans ?? [{ text: 'An empty text' }]"
            />
            <template v-else-if="line.kind === 'answers'">{{ answersWords(line) }}, as a table</template>
            <template v-else-if="line.kind === 'picture'"
              >{{ line.alt || 'A picture' }}
              <span class="text-soft">at most {{ line.width }} × {{ line.height }} mm</span></template
            >
            <template v-else-if="line.kind === 'lines'">{{ linesWords(line) }}</template>
            <template v-else-if="line.kind === 'signature'">Signature over a line</template>
            <template v-else-if="line.kind === 'code'"
              >{{ codeNames[line.code ?? 'qr'] }} of <PhraseLine :spans="line.text ?? []"
            /></template>
            <template v-else-if="line.kind === 'page_break'">A new page</template>
            <template v-else-if="line.kind === 'letterhead'">Letterhead of the house</template>
            <template v-else-if="line.kind === 'space'">{{ line.height }} mm of space</template>
            <template v-else>A rule across the page</template>
          </template>
          <template #settings="{ index }"
            ><BlockSettings v-model="doc!.blocks[index]!" @enter="add('text', index)"
          /></template>
        </ScriptList>
        <div class="grid grid-cols-[58px_1fr] border-b border-faint">
          <span class="ledger pt-2 pr-3 text-right text-amber-ink">{{ doc.blocks.length + 1 }}</span>
          <p class="flex flex-wrap gap-x-4 px-3.5 py-2 text-soft">
            Add
            <button v-for="k in blockKindOrder" :key="k" class="link min-h-[24px]" @click="add(k)">
              {{ blockKinds[k] }}
            </button>
          </p>
        </div>
      </template>
      <p v-else class="px-6 py-8">
        Documents that each submission becomes will stand here.
        <button class="link" @click="addDocument">Add a document</button>
      </p>
    </template>
    <template #proof>
      <div class="flex flex-wrap items-center gap-x-5 gap-y-1 px-5 pt-3">
        <strong>Proof</strong>
        <ProofAnswersChoice v-model="answers" />
        <span v-if="proof" class="ml-auto text-soft">{{ proof.pages }} {{ proof.pages === 1 ? 'page' : 'pages' }}</span>
        <label class="text-soft">
          size
          <select v-model.number="zoom" class="word">
            <option :value="0.6">60 %</option>
            <option :value="0.8">80 %</option>
            <option :value="1">full</option>
          </select>
        </label>
      </div>
      <div class="p-5">
        <p v-if="problem" role="alert" class="mb-3 font-semibold text-madder">✕ {{ problem }}</p>
        <DocumentProof v-if="proof && doc" :proof="proof" :marked="marked" :zoom="zoom" @pick="pick" />
      </div>
    </template>
  </SplitDesk>
</template>
