<script setup lang="ts">
// Photographs and papers of the loop that is open: taken or dropped anywhere in its folder, shown small.
import type { Attachment } from '@calm-loop/contract'
import { ATTACHMENT_BYTES } from '@calm-loop/contract/limits'
import { useDropZone } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef, watch } from 'vue'
import { addressOf, call, isAway, problemWords, type ApiProblem } from '../api/client.ts'
import { useSession } from '../stores/session.ts'
import { useWaitingPictures } from '../stores/waiting-pictures.ts'
import { dayWords } from '../widgets/dates.ts'
import PickFile from '../widgets/PickFile.vue'
import WordsField from '../widgets/WordsField.vue'
import KitPapers from './KitPapers.vue'
import PictureSheet from './PictureSheet.vue'
import { isPaper, saidOf } from './picture-words.ts'

const props = defineProps<{ loopId: string }>()
const session = useSession()
const may = computed(() => session.has('technician'))
const all = shallowRef<readonly Attachment[]>([])
const shown = computed(() => all.value.filter((a) => a.note.hidden === null))
const hidden = computed(() => all.value.filter((a) => a.note.hidden !== null))
const says = ref('')
/** What there is could not be read: nothing is said of it. */
const unread = ref(false)
/** Files that are on their way. */
const sending = ref(0)
async function load(): Promise<void> {
  const { loopId } = props
  const read = await call('attachments', { params: { loopId } }).catch(() => undefined)
  if (loopId !== props.loopId) return
  unread.value = !read
  if (read) all.value = read
}
watch(
  () => props.loopId,
  () => {
    all.value = []
    says.value = ''
    void load()
  },
  { immediate: true },
)

const waiting = useWaitingPictures()
const waits = computed(() => waiting.all.filter((w) => w.loopId === props.loopId))
const putAway = (id: string) => void waiting.leave(id)
watch(() => waiting.arrived, load)
const NO_ROOM = 'the server is not reached, and this device has no room for it. It is not kept: add it again later.'
async function keep(file: File): Promise<void> {
  if (file.size > ATTACHMENT_BYTES) {
    says.value = `${file.name} is larger than ${ATTACHMENT_BYTES / 1e6} MB, and is not taken.`
    return
  }
  sending.value += 1
  const params = { loopId: props.loopId, attachmentId: uuid() }
  try {
    await call('attach', { params, query: { name: file.name.slice(0, 120) }, file })
  } catch (error) {
    if (!isAway(error as ApiProblem)) says.value = `${file.name}: ${problemWords(error as ApiProblem)}`
    else
      await waiting
        .keep(params.loopId, params.attachmentId, file)
        .catch(() => (says.value = `${file.name}: ${NO_ROOM}`))
  } finally {
    sending.value -= 1
  }
}
async function keepAll(files: readonly File[]): Promise<void> {
  says.value = ''
  for (const file of files) await keep(file)
  await load()
}
/** A paper that is kept elsewhere: its address. */
const link = ref('')
async function keepLink(): Promise<void> {
  const address = link.value.trim()
  const called = address.replace(/^https?:\/\//, '').slice(0, 100)
  await keepAll([new File([address], called, { type: 'text/uri-list' })])
  if (!says.value) link.value = ''
}
const { isOverDropZone } = useDropZone(() => document.getElementById('place'), {
  onDrop: (files) => void (may.value && files?.length && keepAll(files)),
  multiple: true,
})
const small = (a: Attachment) => addressOf('attachmentSmall', { loopId: props.loopId, attachmentId: a.id })
const fileAt = (a: Attachment) => addressOf('attachmentFile', { loopId: props.loopId, attachmentId: a.id })
const openId = ref<string>()
const opened = computed(() => all.value.find((a) => a.id === openId.value))
</script>

<template>
  <section aria-labelledby="pictures-head" class="pictures">
    <div class="head">
      <h2 id="pictures-head">Photographs and papers</h2>
      <PickFile
        v-if="may"
        label="Add a photograph or a PDF"
        accept="image/jpeg,image/png,image/webp,application/pdf"
        @picked="keepAll([$event])"
      />
    </div>
    <details v-if="may" class="small">
      <summary>Or a link to a paper that is kept elsewhere</summary>
      <form class="add-link" @submit.prevent="keepLink">
        <WordsField label="Its address, from https:// on" :value="link" @typed="link = $event" />
        <v-btn type="submit" :disabled="!/^https?:\/\/\S+$/.test(link.trim())">Keep the link</v-btn>
      </form>
    </details>
    <p v-if="isOverDropZone && may" class="drop" role="status">Let it fall: it is kept with this loop.</p>
    <p v-if="sending" class="quiet small" role="status">keeping {{ sending === 1 ? 'a file' : `${sending} files` }}</p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <ul v-if="waits.length" class="waits small" data-test="waiting-pictures">
      <li v-for="w in waits" :key="w.id">
        <b>{{ w.name }}</b>:
        <template v-if="w.refused !== undefined">
          not taken: {{ w.refused }}
          <v-btn variant="text" @click="putAway(w.id)">Put it away</v-btn>
        </template>
        <template v-else>waits on this device, and is sent when the server is reached.</template>
      </li>
    </ul>
    <p v-if="unread && !all.length" class="quiet small">What is kept here cannot be read without the server.</p>
    <p v-else-if="!shown.length" class="quiet small">
      None yet. A photograph of the plate or the terminals saves a climb; a data sheet saves a search.
    </p>
    <ul v-else class="list">
      <li v-for="a in shown" :key="a.id" :data-attachment="a.name">
        <button type="button" @click="openId = a.id">
          <img v-if="!isPaper(a)" :src="small(a)" :alt="saidOf(a)" loading="lazy" />
          <span v-else class="paper" aria-hidden="true">{{ a.link === null ? 'PDF' : 'link' }}</span>
          <span class="said">{{ saidOf(a) }}</span>
          <span class="quiet small">{{ a.by.name }}, {{ dayWords(a.at.slice(0, 10)) }}</span>
        </button>
        <a
          v-if="a.link !== null"
          :href="a.link"
          class="link goto small"
          target="_blank"
          rel="noopener noreferrer"
          :aria-label="`Open ${a.name}, elsewhere`"
          >Open it, elsewhere</a
        >
        <a v-else-if="isPaper(a)" :href="fileAt(a)" class="link goto small" :aria-label="`Open ${a.name}`">Open it</a>
      </li>
    </ul>
    <KitPapers :loop-id="loopId" />
    <details v-if="hidden.length" class="small">
      <summary>{{ hidden.length }} taken out of view</summary>
      <ul>
        <li v-for="a in hidden" :key="a.id">
          <button type="button" class="link" @click="openId = a.id">{{ saidOf(a) }}</button>: {{ a.note.hidden }}
        </li>
      </ul>
    </details>
    <PictureSheet
      v-if="opened"
      :key="opened.id"
      :loop-id="loopId"
      :attachment="opened"
      @noted="load"
      @left="openId = undefined"
    />
  </section>
</template>

<style scoped>
.pictures {
  margin-top: 32px;
  padding-top: 8px;
  border-top: 1px solid var(--hairline);
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 0 24px;
}
.drop {
  border: 2px dashed var(--action);
  padding: 24px;
}
.list {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
  gap: 16px;
  margin: 8px 0;
  padding: 0;
  list-style: none;
}
.list button {
  display: flex;
  flex-direction: column;
  width: 100%;
  min-height: 44px;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.list img,
.paper {
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
  background: var(--hairline);
}
.paper {
  display: grid;
  place-items: center;
  font-size: 22px;
  letter-spacing: 0.1em;
}
.goto {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
.add-link {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 20px;
  max-width: 720px;
}
.add-link > :first-child {
  flex: 1 1 280px;
}
.waits {
  list-style: none;
  padding: 0;
}
.said {
  overflow-wrap: anywhere;
}
summary {
  min-height: 44px;
  cursor: pointer;
}
</style>
