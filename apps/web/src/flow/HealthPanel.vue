<script setup lang="ts">
// The health check: stiffness of both sides against a stored reference, what changed since the last one, the output
// meanwhile.
import { workOf } from '@calm-loop/contract'
import { currentKindOf, entriesNow } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { entryIn, type Entry } from '@calm-loop/core/quantity'
import { computed, reactive, ref, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import { moment } from '../widgets/dates.ts'
import QuantityField from '../widgets/QuantityField.vue'
import { useGate } from './useGate.ts'
import { useMeter } from './useMeter.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const session = useSession()
const work = useWork()
const preferences = usePreferences()
const { meter, live, tell, command } = useMeter()
const r = computed(() => sure(folder.reader))
const output = computed(() => (r.value.text('healthOutput').startsWith('goes') ? 'fault' : 'hold'))
const limit = computed(() => r.value.in('healthLimit', '%') ?? 4)
const past = computed(() => workOf(work.log, 'health'))
const reference = computed(() => past.value.filter((h) => h.reference).at(-1))
const last = computed(() => past.value.at(-1))
const lines = computed(() => folder.current?.setup?.() ?? [])
/** The set-up at the last check: as it was kept with it; of older checks the version that had been saved by then. */
const then = computed(() => {
  if (!last.value) return undefined
  if (last.value.setup) return new Map(Object.entries(last.value.setup))
  const since = last.value.at
  const before = sure(folder.view).versions.findLast((v) => v.savedAt <= since)
  const kind = currentKindOf(sure(folder.kind).id)
  return before && new Map((study(kind, entriesNow(kind, before)).setup?.() ?? []).map((l) => [l.key, l.text]))
})
/** Set-up lines and zeroes that are not as they were at the last check, whatever version is open. */
const changed = computed(() => {
  const since = last.value?.at
  if (!since) return []
  const was = then.value
  const differ = was ? lines.value.filter((l) => (was.get(l.key) ?? '') !== l.text) : []
  const zeroes = workOf(work.log, 'zero').filter((z) => z.at > since)
  return [
    ...differ.map((l) => `${l.label}: ${was?.get(l.key) || 'nothing'} → ${l.text || 'nothing'}`),
    ...zeroes.map((z) => `zero taken ${moment(z.at)}`),
  ]
})
const gate = useGate('health')
const toGo = computed(() => (meter.value ? Math.max(0, Math.ceil(meter.value.lasts_s - meter.value.phase_s)) : 0))
/** What the controller shows while nothing is measured. */
const seen = computed(() => {
  const at = folder.thread?.knots.at(-1)
  const value = at && live.reading?.knots[at.id]
  return at && value !== undefined ? preferences.quantity(value, at.unit, { decimals: at.decimals }) : ''
})
const result = ref<{ left: number; right: number }>()
watch(
  () => meter.value?.phase,
  (now, before) => {
    if (before !== 'health' || now !== 'running') return
    const [left, right] = [tell('stiffness-left'), tell('stiffness-right')]
    if (left !== undefined && right !== undefined) result.value = { left, right }
  },
)
/** Without a link: what the meter itself shows at the end of its check, typed. */
const SIDES = [
  { key: 'left', name: 'Stiffness, inlet side' },
  { key: 'right', name: 'Stiffness, outlet side' },
] as const
const typed = reactive<Record<'left' | 'right', Entry>>({ left: { typed: '' }, right: { typed: '' } })
const figures = computed(() => {
  const [left, right] = [entryIn(typed.left, '%'), entryIn(typed.right, '%')]
  return left !== undefined && right !== undefined && left > 0 && right > 0 ? { left, right } : undefined
})
const takeTyped = () => void (result.value = figures.value)
/** As its sheet judges it; before there is a reference, against a tube as it left the maker. */
const judged = computed(() => {
  if (!result.value) return undefined
  const found = { left_pct: result.value.left, right_pct: result.value.right }
  const sheet = folder.current?.sheets?.().find((s) => s.id === 'health')
  return sheet?.judge?.({
    figures: new Map(),
    health: { found, reference: reference.value ?? { left_pct: 100, right_pct: 100 } },
  })
})
async function keep(asReference: boolean): Promise<void> {
  const v = result.value
  if (!v) return
  const saved = await work.add({
    what: 'health',
    left_pct: v.left,
    right_pct: v.right,
    reference: asReference,
    output: output.value,
    changed: changed.value.slice(0, 40),
    setup: Object.fromEntries(lines.value.map((l) => [l.key, l.text])),
  })
  if (saved) result.value = undefined
}
const pct = (v: number, sign = false) => preferences.quantity(v, '%', { decimals: 1, sign })
</script>

<template>
  <section class="health" aria-label="Health check">
    <p>
      While it checks itself the meter does not measure, and its output
      <b>{{ output === 'hold' ? 'holds its last value' : 'goes to its fault current' }}</b>. Operations must know.
      (Chosen under Entries below.)
    </p>
    <p v-if="!reference" class="look">
      No reference yet: the first check, steady and blocked in, is kept as the one that later ones are held against.
    </p>
    <p v-else>
      Reference of {{ moment(reference.at) }}: inlet {{ pct(reference.left_pct) }}, outlet
      {{ pct(reference.right_pct) }}. Limit ± {{ pct(limit) }}.
    </p>
    <div v-if="changed.length" class="look" data-test="changed">
      Changed since the last check:
      <ul>
        <li v-for="c in changed" :key="c">{{ c }}</li>
      </ul>
    </div>
    <p v-else-if="last" class="quiet">Nothing of the set-up or the zero has changed since the last check.</p>
    <v-btn
      v-if="session.has('technician') && meter"
      color="primary"
      variant="flat"
      :disabled="meter.phase !== 'running' || !!gate"
      data-test="run-health"
      @click="command({ do: 'health', output })"
      >Run the health check</v-btn
    >
    <p v-if="gate && session.has('technician')" class="look small" data-test="gate-before">{{ gate }}</p>
    <p v-if="meter?.phase === 'health'" role="status" data-test="health-countdown">
      <b class="figures">{{ toGo }} s</b> to go. Nothing is measured; the controller shows
      <b class="figures">{{ seen || 'nothing' }}</b>, {{ output === 'hold' ? 'the last value held' : 'the fault' }}.
    </p>
    <form v-if="!folder.practising && !result && session.has('technician')" class="do" @submit.prevent="takeTyped">
      <QuantityField
        v-for="side in SIDES"
        :key="side.key"
        :label="side.name"
        quantity="ratio"
        unit="%"
        :entry="typed[side.key]"
        needed
        @entry="typed[side.key] = $event"
      />
      <v-btn type="submit" :disabled="!figures || !!gate" data-test="judge-health">Judge what the meter shows</v-btn>
    </form>
    <p v-else-if="!meter" class="look">{{ live.problem || 'Connecting to the meter.' }}</p>
    <template v-if="judged">
      <dl data-test="health-result">
        <div v-for="line in judged.lines" :key="line.name">
          <dt>{{ line.name }}</dt>
          <dd class="figures">
            {{ pct(line.read ?? 0) }} <span :class="line.inside ? 'ok' : 'bad'">{{ pct(line.off ?? 0, true) }}</span>
          </dd>
        </div>
      </dl>
      <p :class="judged.pass ? 'ok' : 'bad'" role="status">
        {{
          judged.pass
            ? 'Within the limit: the tube is as stiff as it was.'
            : 'Beyond the limit: the tube is worn, coated or damaged. Do not trust the flow; ask the maker.'
        }}
      </p>
      <div class="do">
        <v-btn color="primary" variant="flat" data-test="keep-health" @click="keep(false)">Put it on record</v-btn>
        <v-btn data-test="keep-reference" @click="keep(true)">Keep it as the reference</v-btn>
      </div>
    </template>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
    <ul v-if="past.length" class="past">
      <li v-for="h in [...past].reverse().slice(0, 6)" :key="h.id">
        {{ moment(h.at) }}, {{ h.by.name }}: inlet <span class="figures">{{ pct(h.left_pct) }}</span>, outlet
        <span class="figures">{{ pct(h.right_pct) }}</span>{{ h.reference ? ', the reference' : ''
        }}{{ h.changed.length ? `; ${h.changed.length} changed before it` : '' }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.health {
  border-top: 1px solid var(--hairline);
  margin-top: 16px;
  padding-top: 12px;
}
dl div {
  display: flex;
  gap: 24px;
  padding: 8px 0;
  border-bottom: 1px solid var(--hairline);
}
dt {
  width: 160px;
  color: var(--second);
}
dd {
  margin: 0;
}
.ok {
  color: var(--action);
}
.do {
  display: flex;
  gap: 16px;
}
</style>
