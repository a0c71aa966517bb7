<script setup lang="ts">
// One photograph or paper: large, with what it shows, words and marks, which can be said anew; its file to take along.
import { PAPERS, SHOWS, type Attachment, type AttachmentNote, type Mark } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { computed, defineAsyncComponent, ref } from 'vue'
import { addressOf, call } from '../api/client.ts'
import { useSession } from '../stores/session.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import { moment } from '../widgets/dates.ts'
import { useDoing } from '../widgets/doing.ts'
import WordsField from '../widgets/WordsField.vue'
import MarkedPicture from './MarkedPicture.vue'
import { isPaper, saidOf, SHOWS_WORDS, sizeWords } from './picture-words.ts'

const PlateReading = defineAsyncComponent(() => import('./PlateReading.vue'))
const props = defineProps<{ loopId: string; attachment: Attachment }>()
const emit = defineEmits<{ noted: []; left: [] }>()
const session = useSession()
const { busy, says, run } = useDoing()
const may = computed(() => session.has('technician'))
const paper = computed(() => isPaper(props.attachment))
const wanted = ref<AttachmentNote>({ ...props.attachment.note })
const reason = ref('')
const reading = ref(false)
const params = computed(() => ({ loopId: props.loopId, attachmentId: props.attachment.id }))
const change = (more: Partial<AttachmentNote>) => (wanted.value = { ...wanted.value, ...more })
const add = (mark: Mark) => change({ marks: [...wanted.value.marks, mark] })
const addArrow = () => add({ draw: 'arrow', x: 0.3, y: 0.3, toX: 0.5, toY: 0.5 })
const addWords = () => add({ draw: 'words', x: 0.3, y: 0.2, words: 'here' })
const without = (i: number) => change({ marks: wanted.value.marks.filter((_, at) => at !== i) })
const say = (i: number, words: string) =>
  change({ marks: wanted.value.marks.map((m, at) => (at === i && m.draw === 'words' ? { ...m, words } : m)) })
const empty = computed(() => wanted.value.marks.some((m) => m.draw === 'words' && !m.words.trim()))
const isSame = computed(() => JSON.stringify(wanted.value) === JSON.stringify(props.attachment.note))
const save = (hidden: string | null) =>
  run(async () => {
    const body = { ...wanted.value, hidden }
    await call('noteAttachment', { params: { ...params.value, noteId: uuid() }, body })
    emit('noted')
    emit('left')
  })
const shows = computed(() => (paper.value ? PAPERS : SHOWS).map((value) => ({ value, label: SHOWS_WORDS[value] })))
</script>

<template>
  <v-dialog :model-value="true" max-width="980" :aria-label="saidOf(attachment)" @update:model-value="emit('left')">
    <v-card class="pa-6 sheet">
      <h2>{{ saidOf(attachment) }}</h2>
      <MarkedPicture
        v-if="!paper"
        :source="addressOf('attachmentSmall', params)"
        :alt="saidOf(attachment)"
        :width="attachment.width ?? 4"
        :height="attachment.height ?? 3"
        :marks="wanted.marks"
        :editing="may"
        @marks="change({ marks: $event })"
      />
      <div v-if="may && !paper" class="do">
        <v-btn variant="text" @click="addArrow">Add an arrow</v-btn>
        <v-btn variant="text" @click="addWords">Add words</v-btn>
        <v-btn
          v-if="attachment.note.hidden === null && !reading"
          variant="text"
          data-test="read-plate"
          @click="reading = true"
          >Read the plate</v-btn
        >
      </div>
      <p class="quiet small">
        {{ attachment.name }}, {{ sizeWords(attachment.bytes) }}; kept by {{ attachment.by.name }} on
        {{ moment(attachment.at) }}.
        <template v-if="attachment.noted">
          What is said of it is by {{ attachment.noted.by.name }}, {{ moment(attachment.noted.at) }}.
        </template>
        <br />
        <a
          v-if="attachment.link !== null"
          :href="attachment.link"
          class="link"
          target="_blank"
          rel="noopener noreferrer"
        >
          {{ attachment.link }}</a
        >
        <a v-else :href="addressOf('attachmentFile', params)" class="link" download>Take the file along</a>
        <template v-if="!paper">
          without where and by what it was taken;
          <a :href="addressOf('attachmentFile', params, { whole: 'yes' })" class="link" download>with all of that</a>
        </template>
      </p>
      <PlateReading v-if="reading" :source="addressOf('attachmentFile', params)" />
      <form v-if="may" @submit.prevent="save(null)">
        <ChoiceField
          :label="paper ? 'It is' : 'It shows'"
          :options="shows"
          :value="wanted.shows"
          @choose="change({ shows: $event as AttachmentNote['shows'] })"
        />
        <WordsField label="In words" :value="wanted.words" @typed="change({ words: $event.slice(0, 200) })" />
        <v-checkbox
          v-if="!paper"
          :model-value="wanted.onPapers ?? false"
          label="Stands in the certificates and reports of this loop"
          hide-details
          @update:model-value="change({ onPapers: $event ?? false })"
        />
        <ul class="marks">
          <li v-for="(m, i) in wanted.marks" :key="i">
            <span v-if="m.draw === 'arrow'">Arrow {{ i + 1 }}</span>
            <WordsField v-else :label="`Words ${i + 1}`" :value="m.words" @typed="say(i, $event.slice(0, 60))" />
            <v-btn variant="text" :aria-label="`Take mark ${i + 1} off`" @click="without(i)">Off</v-btn>
          </li>
        </ul>
        <p v-if="says" class="bad" role="alert">{{ says }}</p>
        <div class="do">
          <v-btn variant="text" @click="emit('left')">Close</v-btn>
          <v-btn
            type="submit"
            color="primary"
            variant="flat"
            :loading="busy"
            :disabled="empty || (isSame && attachment.note.hidden === null)"
            >{{ attachment.note.hidden === null ? 'Keep what is said' : 'Show it again' }}</v-btn
          >
        </div>
        <details v-if="attachment.note.hidden === null">
          <summary>Take it out of view</summary>
          <p class="small quiet">It stays on record, with who took it out and why.</p>
          <WordsField label="Why" :value="reason" @typed="reason = $event.slice(0, 200)" />
          <v-btn :disabled="!reason.trim()" :loading="busy" @click="save(reason.trim())">Take it out of view</v-btn>
        </details>
      </form>
      <div v-else class="do"><v-btn variant="text" @click="emit('left')">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
/* All of it is reached on a telephone. */
.sheet {
  max-height: calc(100dvh - 48px);
  overflow-y: auto;
}
.marks {
  margin: 0;
  padding: 0;
  list-style: none;
}
.marks li {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 44px;
}
.marks li > :first-child {
  flex: 1 1 auto;
}
summary {
  min-height: 44px;
  cursor: pointer;
}
</style>
