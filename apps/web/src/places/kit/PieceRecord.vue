<script setup lang="ts">
// One piece of the kit: how its calibrations found it, where it is and who has it, what it was used for.
import type { KitRecord } from '@calm-loop/contract/kit-record'
import { CERTIFICATE_BYTES } from '@calm-loop/contract/limits'
import { driftOf, type KitDrift } from '@calm-loop/core/kit'
import { unitOf } from '@calm-loop/core/quantity'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef, watch } from 'vue'
import { addressOf, call, problemWords, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { dayWords, moment, today } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import PickFile from '../../widgets/PickFile.vue'
import WordsField from '../../widgets/WordsField.vue'
import AddCalibration from './AddCalibration.vue'
import KitErrors from './KitErrors.vue'
import { unitsFound } from './kit-errors.ts'
import { usePlainly } from './plainly.ts'
import UsedFor from './UsedFor.vue'

const props = defineProps<{ gearId: string }>()
const session = useSession()
const record = shallowRef<KitRecord>()
const says = ref('')
const adding = ref(false)
const place = ref('')
const unit = ref('')
/** The calibration that found it off whose doubts are listed; the newest where none is asked for. */
const asked = ref<string>()
watch(
  () => props.gearId,
  () => (asked.value = undefined),
)
async function load(): Promise<void> {
  const { gearId } = props
  try {
    const read = await call('kitRecord', {
      params: { gearId },
      query: asked.value === undefined ? {} : { off: asked.value },
    })
    if (gearId !== props.gearId) return
    record.value = read
    const found = unitsFound(read.calibrations)
    if (!found.includes(unit.value)) unit.value = found[0] ?? ''
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  }
}
watch(() => props.gearId, load, { immediate: true })

const piece = computed(() => record.value?.piece)
const off = computed(() => record.value?.calibrations.find((c) => c.id === record.value?.off))
const units = computed(() =>
  unitsFound(record.value?.calibrations ?? []).map((value) => ({ value, label: unitOf(value).label })),
)
const drifts = computed(() =>
  driftOf(record.value?.calibrations ?? [], piece.value?.ranges ?? []).filter((d) => d.unit === unit.value),
)
const worst = computed(() =>
  [...drifts.value].sort((a, b) => share(b) - share(a) || Math.abs(b.perYear) - Math.abs(a.perYear)).at(0),
)
const share = (d: KitDrift) => (d.limit ? Math.abs(d.perYear) / d.limit : 0)
const number = usePlainly()
const driftWords = computed(() => {
  const d = worst.value
  if (!d) return 'How it drifts is told from two calibrations at the same point on.'
  const label = unitOf(d.unit).label
  const leaves = d.leavesOn
    ? `; on that line it leaves what its figures allow about ${dayWords(d.leavesOn)}`
    : d.limit === undefined
      ? ''
      : Math.abs(d.latest) > d.limit
        ? '; it is outside of what its figures allow now'
        : '; on that line it stays within what its figures allow for twenty years'
  const sure = d.of === 2 ? ' Two calibrations make a line, and say nothing of how sure it is.' : ''
  const at = `At ${number(d.at, 5)} ${label}`
  return `${at} it drifts by ${number(d.perYear, 2, true)} ${label} a year, by ${d.of} calibrations${leaves}.${sure}`
})
const where = computed(() => {
  const move = record.value?.moves[0]
  if (!move) return 'Nobody has said where it is'
  if (!move.holder) return `${move.place || 'Laid down'}, by ${move.by.name} on ${moment(move.at)}`
  return `${move.holder.name} has it since ${moment(move.at)}${move.place ? `, ${move.place}` : ''}`
})
const isMine = computed(() => record.value?.moves[0]?.holder?.id === session.person?.id)
async function move(taken: boolean): Promise<void> {
  says.value = ''
  const after = record.value?.moves[0]?.id ?? null
  try {
    const params = { gearId: props.gearId, moveId: uuid() }
    await call('moveKit', { params, body: { taken, place: place.value, after } })
    place.value = ''
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  }
  await load()
}
const FOUND = { true: 'good', false: 'off', null: 'not stated' } as const
const foundWords = (good: boolean | null) => FOUND[`${good}`]
async function saved(): Promise<void> {
  adding.value = false
  await load()
}
function doubtsOf(calibrationId: string): void {
  asked.value = calibrationId
  void load()
}
/** The certificate of a calibration that was entered without it. */
async function keep(calibrationId: string, file: File): Promise<void> {
  says.value = ''
  if (file.size > CERTIFICATE_BYTES) {
    says.value = `A certificate is at most ${CERTIFICATE_BYTES / 1e6} MB large.`
    return
  }
  try {
    const params = { gearId: props.gearId, calibrationId }
    await call('keepCertificate', { params, query: { name: file.name.slice(0, 120) }, file })
    await load()
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  }
}
const fileOf = (calibrationId: string) => addressOf('kitCertificate', { gearId: props.gearId, calibrationId })
</script>

<template>
  <p>
    <router-link :to="{ path: '/kit' }" class="link back">All of the kit</router-link>
  </p>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <template v-if="record && piece">
    <div class="place-head">
      <h2>
        {{ piece.name }} <span class="figures quiet">{{ piece.serial }}</span>
      </h2>
      <v-btn v-if="session.hasDuty('kit') && !adding" color="primary" variant="flat" @click="adding = true"
        >Add a calibration</v-btn
      >
    </div>
    <p class="quiet">
      {{ [piece.range, piece.uncertainty].filter(Boolean).join('; ') || 'Nothing is stated of its range' }}. Due
      {{ dayWords(piece.due) }}{{ piece.due < today() ? ', expired' : '' }}.
    </p>
    <p v-if="off && off.id === record.calibrations[0]?.id" class="off" data-test="off">
      <GradeMark grade="stop" wordless /> It was found off{{
        off.left === 'good' ? ' and came back good.' : ', and came back off: it is out of use until it is good again.'
      }}
      Below is what it was used for before.
    </p>
    <AddCalibration v-if="adding" :piece="piece" @saved="saved" @left="adding = false" />
    <div v-if="unit" class="drawn">
      <ChoiceField v-if="units.length > 1" label="Drawn in" :options="units" :value="unit" @choose="unit = $event" />
      <KitErrors :calibrations="record.calibrations" :ranges="piece.ranges ?? []" :unit="unit" />
      <p data-test="drift">{{ driftWords }}</p>
    </div>
    <p v-else class="quiet">No calibration with its points is on record: how it drifts cannot be said.</p>
    <section aria-labelledby="where-it-is" class="where">
      <h3 id="where-it-is">Where it is</h3>
      <p data-test="where">{{ where }}.</p>
      <form v-if="session.has('technician')" class="moving" @submit.prevent="move(!isMine)">
        <WordsField :label="isMine ? 'Laid down where' : 'Taken to'" :value="place" @typed="place = $event" />
        <v-btn type="submit">{{ isMine ? 'Lay it down' : 'I have it now' }}</v-btn>
      </form>
    </section>
    <UsedFor :record="record" />
    <section aria-labelledby="calibrations" class="below">
      <h2 id="calibrations">Calibrations</h2>
      <p v-if="!record.calibrations.length" class="quiet">None is on record yet.</p>
      <ul v-else class="list">
        <li v-for="c in record.calibrations" :key="c.id">
          <b>{{ dayWords(c.day) }}</b>
          <span :class="{ bad: c.foundGood === false }">as found: {{ foundWords(c.foundGood) }}</span>
          <span v-if="c.left === 'off'" class="bad">left off</span>
          <span class="figures">{{ c.certificate }}</span>
          <span class="quiet">{{ c.by }}</span>
          <a v-if="c.file" :href="fileOf(c.id)" class="link" download>{{ c.file.name }}</a>
          <PickFile
            v-else-if="session.hasDuty('kit')"
            label="Keep its certificate, a PDF"
            accept="application/pdf"
            @picked="keep(c.id, $event)"
          />
          <span v-else class="quiet small">certificate not kept</span>
          <button
            v-if="c.foundGood === false && c.id !== record.off"
            type="button"
            class="link"
            @click="doubtsOf(c.id)"
          >
            What it put in doubt
          </button>
          <span v-if="c.note" class="small">{{ c.note }}</span>
        </li>
      </ul>
    </section>
  </template>
</template>

<style scoped>
.back {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
.off {
  border-left: 4px solid var(--stop);
  padding: 4px 0 4px 16px;
}
.below {
  margin-top: 32px;
}
.where {
  margin: 8px 0 24px;
}
.moving {
  display: flex;
  flex-wrap: wrap;
  gap: 0 20px;
  align-items: center;
  max-width: 560px;
}
.moving > :first-child {
  flex: 1 1 220px;
}
.list {
  margin: 0;
  list-style: none;
  padding: 0;
}
.list li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  align-items: center;
  min-height: 44px;
  border-top: 1px solid var(--hairline);
}
</style>
