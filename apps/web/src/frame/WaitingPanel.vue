<script setup lang="ts">
// What waits on this device: by loop with its age, what could not be sent and why, and that others' entries wait here.
import type { TakeReading } from '@calm-loop/contract'
import { useNow } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, defineAsyncComponent, ref } from 'vue'
import { draftsOf, type Draft } from '../stores/draft-notes.ts'
import { useDrafts } from '../stores/drafts.ts'
import { useSession } from '../stores/session.ts'
import { useOutbox, type Pending } from '../stores/outbox.ts'
import { ageWords } from '../widgets/ago.ts'
import GradeMark from '../widgets/GradeMark.vue'
import WordsField from '../widgets/WordsField.vue'
import { byLoop, sentOf, standingInstead, writeWords } from './waiting.ts'
import { sure } from '@calm-loop/core/sure'

const SealHere = defineAsyncComponent(() => import('./SealHere.vue'))
const KeptHere = defineAsyncComponent(() => import('./KeptHere.vue'))
const open = defineModel<boolean>({ required: true })
const outbox = useOutbox()
const drafts = useDrafts()
const putBy = ref(0)
const typed = computed(() => {
  void putBy.value
  return open.value ? draftsOf(session.person?.id ?? '') : drafts.waiting
})
function standsSo({ loopId }: Draft): string {
  const why = drafts.refused[loopId]
  if (why) return `the server will not take it: ${why}`
  return drafts.toDecide.includes(loopId)
    ? 'somebody else has changed the same: open it and choose, entry by entry'
    : 'is saved when the server is reached'
}
function putAway(draft: Draft): void {
  drafts.dismiss(draft)
  putBy.value++
}
const session = useSession()
const now = useNow({ interval: 10_000 })
const age = (at: number) => ageWords(at, now.value.getTime())
const loops = computed(() => byLoop(outbox.waiting.filter((w) => !outbox.toSeal.includes(w))))
/** How far the sending of many is; nothing while nothing goes out. */
const far = computed(() => (outbox.offline ? undefined : sentOf(outbox.waiting.length, outbox.most)))
const reasons = ref<Record<string, string>>({})

/** Sends a refused reading once more, as the correction of the one that stands. */
function correct(write: Pending): void {
  const standing = sure(standingInstead(write))
  const id = uuid()
  const body = { ...(write.body as TakeReading), supersedes: standing.id, reason: reasons.value[write.id]!.trim() }
  outbox.put({ id, endpoint: 'takeReading', params: { ...write.params, readingId: id }, body, tag: write.tag })
  void outbox.dismiss(write.id)
}
</script>

<template>
  <v-dialog v-model="open" aria-label="What waits on this device" scrollable>
    <v-card class="sheet">
      <h2>What waits on this device</h2>
      <p v-if="outbox.full" class="bad" role="alert"><GradeMark grade="stop" /> {{ outbox.full }}</p>
      <section v-if="outbox.refused.length" aria-label="Could not be sent">
        <h3>Could not be sent</h3>
        <p class="quiet small">The server will not take these as they are. Nothing else waits because of them.</p>
        <ul class="list">
          <li v-for="w in outbox.refused" :key="w.id" data-test="refused">
            <div>
              <b>{{ w.tag }}</b> {{ writeWords(w) }} <span class="quiet small">{{ age(w.at) }}</span>
            </div>
            <p class="bad">{{ w.refused }}</p>
            <form v-if="standingInstead(w)" class="correct" @submit.prevent="correct(w)">
              <WordsField
                label="What is wrong with the earlier reading"
                :value="reasons[w.id] ?? ''"
                needed
                @typed="reasons[w.id] = $event"
              />
              <v-btn type="submit" :disabled="!reasons[w.id]?.trim()">Send as its correction</v-btn>
            </form>
            <router-link
              v-if="w.endpoint === 'doProcedure'"
              :to="`/loops/${w.params['loopId']}/trim`"
              @click="open = false"
              >See what it left, and put it right</router-link
            >
            <v-btn v-else variant="text" @click="outbox.dismiss(w.id)">Put away for good</v-btn>
          </li>
        </ul>
      </section>
      <SealHere v-if="open && outbox.toSeal.length" />
      <section v-if="loops.length" aria-label="Waits to be sent">
        <h3>Waits to be sent, in the order it was entered</h3>
        <template v-if="far">
          <p class="figures" data-test="far">{{ far.sent }} of {{ far.of }} sent</p>
          <v-progress-linear :model-value="far.sent" :max="far.of" aria-label="How far the sending is" />
        </template>
        <ul class="list">
          <li v-for="l in loops" :key="l.tag" data-test="waiting-loop">
            <b>{{ l.tag || 'no loop' }}</b>
            {{ l.count }} {{ l.count === 1 ? 'entry' : 'entries' }}
            <span class="quiet">since {{ age(l.since) === 'just now' ? 'just now' : `${age(l.since)} ago` }}</span>
          </li>
        </ul>
      </section>
      <section v-if="typed.length" aria-label="Typed and not saved yet">
        <h3>Typed and not saved yet</h3>
        <ul class="list">
          <li v-for="d in typed" :key="d.loopId" data-test="draft">
            <router-link :to="`/loops/${d.loopId}`" @click="open = false"
              ><b>{{ d.tag || 'a loop' }}</b></router-link
            >
            {{ standsSo(d) }}
            <v-btn v-if="drafts.refused[d.loopId]" variant="text" @click="putAway(d)">Put away for good</v-btn>
          </li>
        </ul>
      </section>
      <section v-if="outbox.others.length" aria-label="Of others">
        <h3>Of others</h3>
        <p v-for="o in outbox.others" :key="o.name" data-test="others">
          {{ o.count }} {{ o.count === 1 ? 'entry' : 'entries' }} of {{ o.name || 'someone else' }}
          {{ o.count === 1 ? 'waits' : 'wait' }} here. Only they can see and send {{ o.count === 1 ? 'it' : 'them' }}:
          by signing in on this device.
        </p>
      </section>
      <p v-if="!loops.length && !outbox.refused.length && !outbox.others.length && !typed.length">
        Nothing waits; all is saved.
      </p>
      <KeptHere v-if="open" />
      <div class="do"><v-btn variant="text" @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  padding: 24px;
  overflow-y: auto;
}
section {
  margin-top: 16px;
}
.list {
  list-style: none;
  padding: 0;
}
.list li {
  padding: 8px 0;
  border-top: 1px solid var(--hairline);
}
.correct {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 16px;
  align-items: center;
}
@media (max-width: 560px) {
  .correct {
    grid-template-columns: 1fr;
  }
}
</style>
