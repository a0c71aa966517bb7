<script setup lang="ts">
// Work on many loops at once, done by the servers while one goes on with something else: papers in one file, folders
// brought in, a backup.
import { ERRAND_DAYS, ERRAND_LOOPS, ERRAND_PAPERS } from '@calm-loop/contract/limits'
import type { Errand, ErrandWish } from '@calm-loop/contract'
import { useIntervalFn } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref } from 'vue'
import { addressOf, call, type ApiProblem } from '../../api/client.ts'
import { sendErrandFile } from '../../api/errand-file.ts'
import { useRegister } from '../../stores/register.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { moment } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import PickFile from '../../widgets/PickFile.vue'
import WordsField from '../../widgets/WordsField.vue'

type Papers = (typeof ERRAND_PAPERS)[number]
const LOOK_ms = 1000
const session = useSession()
const register = useRegister()
const ABOUT_PAPERS =
  'Certificates: of the last signed check of each. Folders: all entries, checks and signatures, to bring in ' +
  'elsewhere. Photographs: with the papers kept beside them, without where they were taken. Instrument list: every ' +
  'entry, as XLSX and CSV.'
const errands = ref<Errand[]>([])
const backups = ref(false)
const says = ref('')
const papers = ref<Papers>('certificates')
const area = ref('')
const q = ref('')
/** Share of a file that is sent; undefined while none is. */
const sending = ref<number>()
const goesOn = (e: Errand) => e.state === 'waiting' || e.state === 'running'
const anything = computed(() => errands.value.some(goesOn))

async function look(): Promise<void> {
  const told = await call('errands')
  errands.value = told.errands
  backups.value = told.backups
}
async function tried(work: () => Promise<unknown>): Promise<void> {
  says.value = ''
  try {
    await work()
    await look()
  } catch (error) {
    says.value = (error as ApiProblem).message
  }
}
const ask = (body: ErrandWish, errandId = uuid()) => tried(() => call('beginErrand', { params: { errandId }, body }))
const askPapers = () =>
  ask({
    what: 'papers',
    papers: papers.value,
    of: { ...(area.value ? { area: area.value } : {}), ...(q.value.trim() ? { q: q.value.trim() } : {}) },
  })
const end = (errandId: string) => tried(() => call('cancelErrand', { params: { errandId } }))

async function bring(file: File): Promise<void> {
  await tried(async () => {
    const { id, parts } = await sendErrandFile(file, (share) => (sending.value = share))
    await call('beginErrand', {
      ...{ params: { errandId: id }, body: { what: 'bring-in', parts, name: file.name.slice(0, 200) } },
    })
  })
  sending.value = undefined
}

const NAMES: Record<ErrandWish['what'], string> = {
  ...{ papers: '', 'bring-in': 'Folders brought in', plant: 'Instrument list', backup: 'Backup' },
}
function nameOf({ wish }: Errand): string {
  if ('name' in wish) return `${NAMES[wish.what]}: ${wish.name}`
  if (wish.what !== 'papers') return NAMES[wish.what]
  const of = [wish.of.area, wish.of.q && `“${wish.of.q}”`].filter(Boolean).join(', ')
  return `${wish.papers[0]!.toUpperCase()}${wish.papers.slice(1)} of ${of || 'all loops'}`
}
const WORDS = {
  waiting: 'waits for a server',
  running: 'under way',
  done: 'done',
  failed: 'failed',
  cancelled: 'ended',
}
const size = (bytes: number) => (bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`)
const fileOf = (errandId: string) => addressOf('errandFile', { errandId })

onMounted(() => void tried(async () => register.areas.length || register.load()))
useIntervalFn(() => void (anything.value && look().catch(() => undefined)), LOOK_ms)
</script>

<template>
  <div class="place-head">
    <h1>Many loops at once</h1>
  </div>
  <p class="quiet">
    The servers do this while you go on; you may close the page. What was made is kept {{ ERRAND_DAYS }} days.
  </p>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <div v-if="session.has('technician')" class="asks">
    <form aria-label="Papers in one file" @submit.prevent="askPapers">
      <h2>Papers in one file</h2>
      <ChoiceField
        label="Papers"
        :options="ERRAND_PAPERS.map((value) => ({ value, label: value }))"
        :value="papers"
        :help="ABOUT_PAPERS"
        @choose="papers = $event as Papers"
      />
      <ChoiceField
        label="Area"
        :options="[{ value: '', label: 'every area' }, ...register.areas.map((a) => ({ value: a, label: a }))]"
        :value="area"
        @choose="area = $event"
      />
      <WordsField
        label="Tag, service or area holds"
        :value="q"
        :help="`Nothing: all of them, at most ${ERRAND_LOOPS}.`"
        @typed="q = $event"
      />
      <v-btn type="submit" color="primary" variant="flat">Make the file</v-btn>
    </form>
    <section aria-label="Bring folders in">
      <h2>Bring folders in</h2>
      <p>A ZIP file of folders as it is made here, or one folder. A folder that is here already is never changed.</p>
      <PickFile
        v-if="sending === undefined"
        label="Choose a ZIP file or a folder"
        accept=".zip,.json"
        @picked="bring"
      />
      <p v-else role="status">{{ Math.round(100 * sending) }} % is sent.</p>
      <v-progress-linear v-if="sending !== undefined" :model-value="100 * sending" aria-label="Sent of the file" />
    </section>
    <section aria-label="Bring an instrument list in">
      <h2>Bring an instrument list in</h2>
      <p>XLSX or CSV, with columns of your own: matched, tried, and then all of it or nothing.</p>
      <v-btn to="/bring-in">Choose a list</v-btn>
    </section>
    <section v-if="session.has('administrator')" aria-label="Backup">
      <h2>Backup</h2>
      <p v-if="backups">
        One a day is made by itself. Make one more before something large is changed; only its secrets are sealed, so
        keep the folder where few can read it.
      </p>
      <p v-else class="quiet">This server makes no backups: none were set up where it is started.</p>
      <v-btn v-if="backups" @click="ask({ what: 'backup' })">Make one now</v-btn>
    </section>
  </div>
  <section aria-label="What was asked for">
    <h2>What was asked for</h2>
    <p v-if="!errands.length" class="quiet">Nothing yet.</p>
    <ul class="list">
      <li v-for="e in errands" :key="e.id" :data-errand="e.state">
        <div class="line">
          <GradeMark v-if="e.state === 'failed'" grade="stop" wordless />
          <b>{{ nameOf(e) }}</b>
          <span class="quiet small">{{ e.by.name }}, {{ moment(e.at) }}</span>
          <v-btn v-if="goesOn(e)" variant="text" @click="end(e.id)">End it</v-btn>
          <v-btn v-else-if="e.file" variant="text" :href="fileOf(e.id)" download
            >Take the file, {{ size(e.file) }}</v-btn
          >
        </div>
        <v-progress-linear
          v-if="goesOn(e)"
          :model-value="100 * e.share"
          :aria-label="`${Math.round(100 * e.share)} % of ${nameOf(e)}`"
        />
        <p :class="e.state === 'failed' ? 'bad' : 'quiet'" class="small figures" role="status">
          {{ WORDS[e.state] }}{{ e.says ? `: ${e.says}` : '' }}
        </p>
        <details v-if="e.left.length">
          <summary class="small">{{ e.left.length }} left out</summary>
          <ul>
            <li v-for="l in e.left" :key="l" class="small">{{ l }}</li>
          </ul>
        </details>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.asks {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 32px 40px;
  margin: 24px 0 40px;
}
.asks > * {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 12px;
}
.asks h2,
.asks p {
  margin: 0;
}
.asks .entry {
  width: 100%;
}
.list {
  list-style: none;
  padding: 0;
}
.list > li {
  border-top: 1px solid var(--hairline);
  padding: 8px 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
  min-height: 44px;
}
.line .v-btn {
  margin-left: auto;
}
summary {
  cursor: pointer;
  min-height: 32px;
}
</style>
