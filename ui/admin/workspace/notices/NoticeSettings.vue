<script setup lang="ts">
import type { Notice } from '../../../shared/types'
import EntryCell from '../../parts/EntryCell.vue'
import FoldAway from '../../parts/FoldAway.vue'
import PhraseEditor from '../../parts/PhraseEditor.vue'
import CarriedList from '../CarriedList.vue'
import ConditionWords from '../formula/ConditionWords.vue'
import AnswersTable from './AnswersTable.vue'
import NoticePictures from './NoticePictures.vue'
import NoticeWords from './NoticeWords.vue'
import RecipientCells from './RecipientCells.vue'
import LinkCells from './LinkCells.vue'
import { besides, dueWords } from './said'
import TimeCells from './TimeCells.vue'

/** The settings of a notice, inside its line. */
const notice = defineModel<Notice>({ required: true })
const language = defineModel<string>('language', { required: true })
const emit = defineEmits<{ removed: [words: string] }>()
</script>

<template>
  <div class="grid gap-3">
    <EntryCell :label="$t('notices.name')" live :model-value="notice.name" @update:model-value="notice.name = $event" />
    <ConditionWords v-model="notice.when" :verb="$t('notices.sent')" />
    <div>
      <span class="text-[13px] text-soft">{{ $t('notices.to2') }}</span><PhraseEditor
        v-model:line="notice.to"
        :label="$t('notices.to2')"
      />
    </div>
    <FoldAway :label="$t('notices.others')" :inside="besides(notice)"><RecipientCells v-model="notice" /></FoldAway>
    <FoldAway :label="$t('notices.whenItGoes')" :inside="dueWords(notice)"><TimeCells v-model="notice" /></FoldAway>
    <NoticeWords v-model="notice" v-model:language="language" @removed="emit('removed', $event)" />
    <FoldAway :label="$t('notices.pictures')" :inside="notice.pictures?.length ? String(notice.pictures.length) : ''">
      <NoticePictures v-model="notice" />
    </FoldAway>
    <AnswersTable v-model="notice" />
    <CarriedList v-model="notice.attach" :label="$t('notices.attach')" />
    <LinkCells v-if="notice.attach.length" v-model="notice.attach" />
  </div>
</template>
