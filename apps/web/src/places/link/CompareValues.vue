<script setup lang="ts">
// The device beside the plan of its loop, a file, or how it was last visited: only what differs, digit by digit.
import type { LinkState } from '@calm-loop/contract'
import { cutAtDifference, refusedValue, type Parameter, type Values } from '@calm-loop/core/description'
import { plannedValues, study } from '@calm-loop/core/loop'
import { entriesNow, kindOf } from '@calm-loop/core/kinds'
import { computed, ref, shallowRef, watch } from 'vue'
import { call } from '../../api/client.ts'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { dayWords } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'
import { shown, unitOf } from './words.ts'

const props = defineProps<{ state: LinkState }>()
const link = useDeviceLink()
const session = useSession()
const { says, run } = useDoing()
const may = computed(() => session.has('technician') && !link.busy)
const tag = ref('')
watch(
  () => props.state.device?.tag,
  (now) => (tag.value ||= now ?? ''),
  { immediate: true },
)
const plan = shallowRef<{ loopId: string; tag: string; values: Values }>()
const findPlan = () =>
  run(async () => {
    const wanted = tag.value.trim().toLowerCase()
    const { loops } = await call('loops', { query: { q: tag.value.trim(), limit: 12 } })
    const found = loops.find((l) => l.tag.toLowerCase() === wanted) ?? loops[0]
    if (!found) throw new Error(`No loop is called “${tag.value}”.`)
    const { loop, versions } = await call('folder', { params: { loopId: found.id } })
    const [kind, head] = [kindOf(loop.kind), versions.at(-1)]
    if (!kind || !head) throw new Error(`${loop.tag} has no entries yet.`)
    const unit = props.state.values['unit']
    const values = plannedValues(
      study(kind, entriesNow(kind, head)),
      loop.tag,
      typeof unit === 'string' ? unit : undefined,
    )
    plan.value = { loopId: loop.id, tag: loop.tag, values }
    side.value = 'plan'
  })
const side = ref('')
const sides = computed(() => [
  ...(plan.value ? [{ value: 'plan', label: `plan of ${plan.value.tag}` }] : []),
  ...link.files.slice(0, 12).map((f, i) => ({
    value: f.id,
    label: `${i === 0 ? 'last saved, ' : ''}${dayWords(f.at.slice(0, 10))} ${f.note}`,
  })),
])
const other = computed<Values | undefined>(() =>
  side.value === 'plan' ? plan.value?.values : link.files.find((f) => f.id === side.value)?.values,
)
watch(sides, (now) => (side.value ||= now[0]?.value ?? ''), { immediate: true })
interface Row {
  p: Parameter
  same: string
  device: string
  other: string
}
const rows = computed<Row[]>(() => {
  const there = other.value
  if (!there) return []
  return link.parameters.flatMap((p) => {
    if (!(p.id in there) || !(p.id in props.state.values) || there[p.id] === props.state.values[p.id]) return []
    const cut = cutAtDifference(shown(p, props.state.values[p.id]), shown(p, there[p.id]))
    return [{ p, same: cut.same, device: cut.a, other: cut.b }]
  })
})
const compared = computed(() =>
  link.parameters.filter((p) => other.value && p.id in other.value && p.id in props.state.values),
)
const takeable = (p: Parameter) => may.value && refusedValue(p, other.value?.[p.id] ?? null) === ''
const take = (p: Parameter) => link.put(p.id, other.value?.[p.id])
</script>

<template>
  <p v-if="!state.device || !state.readAt" class="quiet">Read the device first; then it is compared.</p>
  <template v-else>
    <div class="choose">
      <form class="tag" @submit.prevent="findPlan">
        <WordsField label="Loop whose plan it should follow" :value="tag" @typed="tag = $event" />
        <v-btn type="submit" variant="text" :disabled="!tag.trim()">Compare with its plan</v-btn>
      </form>
      <ChoiceField
        v-if="sides.length"
        label="Beside the device"
        :options="sides"
        :value="side"
        @choose="side = $event"
      />
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <p v-if="!sides.length" class="quiet">Nothing is there to compare with yet: name its loop, or save a file of it.</p>
    <p v-else-if="other && !rows.length" class="pass">All {{ compared.length }} values agree, bit by bit.</p>
    <template v-else-if="other">
      <p class="quiet">{{ rows.length }} of {{ compared.length }} values differ.</p>
      <v-table aria-label="What differs">
        <thead>
          <tr>
            <th>Value</th>
            <th>The device holds</th>
            <th>{{ sides.find((s) => s.value === side)?.label }}</th>
            <th><span class="visually-hidden">Take over</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.p.id" :data-differs="r.p.id">
            <td>{{ r.p.label }}</td>
            <td class="figures">
              {{ r.same }}<mark>{{ r.device }}</mark> <span class="quiet">{{ unitOf(r.p, state.values) }}</span>
            </td>
            <td class="figures">
              {{ r.same }}<mark>{{ r.other }}</mark> <span class="quiet">{{ unitOf(r.p, other) }}</span>
            </td>
            <td>
              <v-btn v-if="takeable(r.p)" variant="text" @click="take(r.p)">{{
                r.p.id in link.edits ? 'taken' : 'Take to the device'
              }}</v-btn>
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-if="side === 'plan' && plan" class="small">
        If the device is right and the plan is not,
        <router-link :to="`/loops/${plan.loopId}/range`">change the plan of {{ plan.tag }}</router-link
        >.
      </p>
    </template>
  </template>
</template>

<style scoped>
.choose {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 8px 32px;
}
.tag {
  display: flex;
  align-items: center;
  gap: 8px;
}
mark {
  background: none;
  color: var(--look);
  font-weight: 700;
  text-decoration: underline;
}
</style>
