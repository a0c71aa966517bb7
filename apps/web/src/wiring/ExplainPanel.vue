<script setup lang="ts">
// What was really read at the terminals, and the single fault that explains it best; and where to measure next.
import { standingReadings, type LoopSpot, type WireReading } from '@calm-loop/contract'
import { convertUnit, type Entry } from '@calm-loop/core/quantity'
import { readAt, type LoopReading, type Spot } from '@calm-loop/core/wiring'
import { wrap } from 'comlink'
import { v7 as uuid } from 'uuid'
import { computed, onScopeDispose, ref, shallowRef, toRaw, watch } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { useFolder } from '../stores/folder.ts'
import { useOutbox } from '../stores/outbox.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import type { Explained, ExplainWorker } from '../workers/explain.worker.ts'
import SpotPick from './SpotPick.vue'

const emit = defineEmits<{ show: [where: readonly string[]] }>()
const desk = useDesk()
const folder = useFolder()
const outbox = useOutbox()
const session = useSession()
const preferences = usePreferences()

const of = ref<LoopSpot['of']>('volts')
const red = ref('')
const black = ref('')
const conductor = ref('')
const entry = shallowRef<Entry>({ typed: '' })
const reason = ref('')
const afreshReason = ref('')
const unit = computed(() => (of.value === 'volts' ? 'V' : 'mA'))
const spot = computed<LoopSpot | undefined>(() => {
  if (of.value === 'current') return conductor.value ? { of: 'current', conductor: conductor.value } : undefined
  return red.value && black.value && red.value !== black.value
    ? { of: 'volts', red: red.value, black: black.value }
    : undefined
})
/** Readings on their way to the server count like those that are there. */
const waiting = computed<WireReading[]>(() =>
  outbox.pending.flatMap((p) => {
    if (p.endpoint !== 'addWireEntry' || p.refused || p.params['loopId'] !== folder.view?.loop.id) return []
    const body = p.body as WireReading
    return body.what === 'reading'
      ? [{ ...body, id: p.id, by: { id: p.by, name: session.person?.name ?? '' }, at: '' }]
      : []
  }),
)
const refused = computed(() =>
  outbox.pending.filter(
    (p) => p.endpoint === 'addWireEntry' && p.refused && p.params['loopId'] === folder.view?.loop.id,
  ),
)
const readings = computed(() => {
  const log = folder.view?.wireLog ?? []
  return standingReadings([...log, ...waiting.value.filter((w) => !log.some((e) => e.id === w.id))])
})
const same = (a: LoopSpot, b: LoopSpot) => JSON.stringify(a) === JSON.stringify(b)
const replaces = computed(() => (spot.value ? readings.value.find((r) => same(r.spot, spot.value!)) : undefined))
const expected = computed(() => (desk.energised && spot.value ? readAt(desk.energised, spot.value as Spot) : undefined))
const words = (s: LoopSpot) => (s.of === 'volts' ? `${s.red} to ${s.black}` : `along ${s.conductor}`)
const show = (v: number, s: LoopSpot) =>
  preferences.quantity(Math.abs(v) < 5e-3 ? 0 : v, s.of === 'volts' ? 'V' : 'mA', { decimals: 2 })
const ready = computed(() => spot.value && entry.value.value !== undefined && (!replaces.value || reason.value.trim()))

function put(): void {
  if (!ready.value) return
  const id = uuid()
  const { typed, value, unit: u } = entry.value
  outbox.put(
    {
      id,
      endpoint: 'addWireEntry',
      params: { loopId: folder.view!.loop.id, entryId: id },
      body: {
        what: 'reading',
        spot: spot.value,
        read: { typed, value, unit: u },
        expected: expected.value ?? null,
        signal_mA: desk.energised ? desk.mA : null,
        supersedes: replaces.value?.id ?? null,
        reason: replaces.value ? reason.value.trim() : '',
      },
    },
    () => void folder.refresh(),
  )
  entry.value = { typed: '' }
  reason.value = ''
}
function startAfresh(): void {
  const id = uuid()
  outbox.put(
    {
      id,
      endpoint: 'addWireEntry',
      params: { loopId: folder.view!.loop.id, entryId: id },
      body: { what: 'afresh', reason: afreshReason.value.trim() },
    },
    () => void folder.refresh(),
  )
  afreshReason.value = ''
}

const worker = new Worker(new URL('../workers/explain.worker.ts', import.meta.url), { type: 'module' })
const explainer = wrap<ExplainWorker>(worker)
onScopeDispose(() => worker.terminate())
const explained = shallowRef<Explained>()
const working = ref(false)
let asked = 0
watch(
  [readings, () => desk.wiring, () => desk.conditions],
  async () => {
    const mine = ++asked
    if (!readings.value.length || !desk.wiring || !desk.conditions || desk.study?.needs.length) {
      explained.value = undefined
      return
    }
    working.value = true
    const plain = <T,>(x: T): T => JSON.parse(JSON.stringify(toRaw(x))) as T
    const list: LoopReading[] = readings.value.map((r) => ({
      ...r.spot,
      value: convertUnit(r.read.value, r.read.unit, r.spot.of === 'volts' ? 'V' : 'mA'),
    }))
    const answer = await explainer
      .explain(plain(desk.wiring), plain(desk.conditions), plain(list))
      .catch(() => undefined)
    if (mine !== asked) return
    explained.value = answer
    working.value = false
  },
  { immediate: true },
)
const fits = (misfit: number) => (misfit < 2 ? 'fits all readings' : misfit < 12 ? 'fits roughly' : 'does not fit')
const good = computed(() => explained.value?.groups.filter((g) => g[0]!.misfit < 400).slice(0, 4) ?? [])
function measureNext(): void {
  const next = explained.value?.next?.spot as LoopSpot | undefined
  if (!next) return
  of.value = next.of
  if (next.of === 'volts') [red.value, black.value] = [next.red, next.black]
  else conductor.value = next.conductor
  entry.value = { typed: '' }
}
</script>

<template>
  <section aria-label="Explain readings">
    <p v-if="desk.study?.needs.length" class="look">
      Explaining readings still needs: {{ desk.study.needs.join(', ') }}.
    </p>
    <div class="two">
      <div>
        <h3>What was read</h3>
        <table v-if="readings.length" class="plain">
          <thead>
            <tr>
              <th>Where</th>
              <th class="num">Expected now</th>
              <th class="num">Read</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in readings" :key="r.id">
              <td class="figures">{{ words(r.spot) }}</td>
              <td class="num">{{ desk.energised ? show(readAt(desk.energised, r.spot as Spot), r.spot) : '' }}</td>
              <td class="num read">{{ r.read.typed }}{{ /[a-zΩ]/i.test(r.read.typed) ? '' : ` ${r.read.unit}` }}</td>
            </tr>
          </tbody>
        </table>
        <p v-else class="quiet">Nothing yet. Measure anywhere, type what the meter showed.</p>
        <form v-if="session.has('technician')" @submit.prevent="put">
          <ChoiceField
            label="Measured"
            :options="[
              { value: 'volts', label: 'volts between terminals' },
              { value: 'current', label: 'mA along a conductor' },
            ]"
            :value="of"
            @choose="of = $event as LoopSpot['of']"
          />
          <template v-if="of === 'volts'">
            <SpotPick label="Red lead at" of="terminal" :value="red" @choose="red = $event" />
            <SpotPick label="Black lead at" of="terminal" :value="black" @choose="black = $event" />
          </template>
          <SpotPick
            v-else
            label="Conductor, from its first end to its second"
            of="conductor"
            :value="conductor"
            @choose="conductor = $event"
          />
          <QuantityField
            label="The meter showed"
            :quantity="of === 'volts' ? 'voltage' : 'current'"
            :unit="unit"
            :entry="entry"
            :help="expected === undefined || !spot ? 'With its sign.' : `Expected ${show(expected, spot)}.`"
            @entry="entry = $event"
            @enter="put"
          />
          <WordsField
            v-if="replaces"
            label="Why it is read again"
            :value="reason"
            needed
            :help="`It replaces ${replaces.read.typed}, which stays on record.`"
            @typed="reason = $event"
          />
          <v-btn type="submit" color="primary" variant="flat" :disabled="!ready">Put on record</v-btn>
        </form>
        <p v-for="p in refused" :key="p.id" class="bad" role="alert">
          Not taken: {{ p.refused }} <button type="button" class="link" @click="outbox.dismiss(p.id)">Seen</button>
        </p>
        <form v-if="readings.length && session.has('technician')" class="afresh" @submit.prevent="startAfresh">
          <WordsField
            label="Start afresh, because"
            :value="afreshReason"
            help="After a repair: the readings so far stay on record and no longer count."
            @typed="afreshReason = $event"
          />
          <v-btn type="submit" variant="text" :disabled="!afreshReason.trim()">Start afresh</v-btn>
        </form>
      </div>
      <div aria-live="polite">
        <h3>What explains it</h3>
        <p v-if="working && !explained" class="quiet">Trying every single fault</p>
        <p v-else-if="!good.length" class="quiet">
          {{
            explained
              ? 'No single fault explains these readings. Perhaps there are two, or a reading is wrong: take one again.'
              : 'Every single fault is tried on the wiring as drawn; what fits stands here.'
          }}
        </p>
        <article v-for="(group, i) in good" :key="group[0]!.id" class="group" :data-rank="i + 1">
          <p class="rank">
            <b class="figures">{{ i + 1 }}</b> <span class="quiet small">{{ fits(group[0]!.misfit) }}</span>
          </p>
          <div>
            <p v-for="e in group.slice(0, 4)" :key="e.id" class="fault">
              <button type="button" class="link" @click="emit('show', e.where)">
                {{ e.says
                }}{{
                  e.figure
                    ? `, about ${preferences.quantity(e.figure.value, e.figure.unit, { decimals: e.figure.value < 10 ? 1 : 0 })}`
                    : ''
                }}
              </button>
            </p>
            <p v-if="group.length > 4" class="quiet small">and {{ group.length - 4 }} more that would read the same.</p>
          </div>
        </article>
        <div v-if="explained?.next" class="next">
          <h3>Measure next</h3>
          <p>
            {{ explained.next.spot.of === 'volts' ? 'Volts, ' : 'mA, '
            }}<b class="figures">{{ words(explained.next.spot as LoopSpot) }}</b
            >. It would read
          </p>
          <table class="plain">
            <tbody>
              <tr v-for="e in explained.next.expects" :key="e.says">
                <td>{{ e.says }}</td>
                <td class="num">{{ show(e.value, explained.next.spot as LoopSpot) }}</td>
              </tr>
            </tbody>
          </table>
          <v-btn variant="outlined" class="mt-2" @click="measureNext">Take this reading</v-btn>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 16px 40px;
}
.read {
  color: var(--signal);
  font-weight: 600;
}
.group {
  display: grid;
  grid-template-columns: 72px minmax(0, 1fr);
  gap: 12px;
  border-top: 1px solid var(--hairline);
  padding: 8px 0;
}
.rank {
  margin: 0;
  line-height: 1.25;
}
.rank b {
  display: block;
  font-size: 22px;
}
.fault {
  margin: 0;
}
.link {
  background: none;
  border: 0;
  padding: 4px 0;
  color: var(--action);
  text-decoration: underline;
  text-underline-offset: 3px;
  font: inherit;
  text-align: left;
  min-height: 44px;
  cursor: pointer;
}
.next {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
}
.afresh {
  margin-top: 24px;
}
.look {
  color: var(--look);
}
@media (max-width: 740px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
