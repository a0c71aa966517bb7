<script setup lang="ts">
// What a piece was used for since it was last good: where it was found off, the checks to repeat, those whose verdict
// would be another first.
import type { KitRecord, KitUse } from '@calm-loop/contract/kit-record'
import { computed, ref } from 'vue'
import MakeJob from '../../round/MakeJob.vue'
import { usePreferences } from '../../stores/preferences.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import GrowingTable from '../../widgets/GrowingTable.vue'

const props = defineProps<{ record: KitRecord }>()
const preferences = usePreferences()
const session = useSession()
const off = computed(() => props.record.calibrations.find((c) => c.id === props.record.off))
const turns = (u: KitUse) => !!u.verdict && !!u.without && u.verdict.pass !== u.without.pass
const size = (u: KitUse) => (turns(u) ? 1e6 : 0) + Math.abs(u.movedPct ?? 0)
const uses = computed(() => (off.value ? [...props.record.uses].sort((a, b) => size(b) - size(a)) : props.record.uses))
const turned = computed(() => uses.value.filter(turns).length)
const columns = computed(() => [
  ...['Loop', 'What', 'By'].map((title) => ({ title })),
  ...(off.value ? ['As it stands', 'Without its error', 'Moves by'] : ['Verdict']).map((title) => ({ title })),
  ...(off.value && session.has('technician') ? [{ title: 'Repeat', hidden: true }] : []),
])
const percent = (v: number | null | undefined) =>
  v === null || v === undefined ? '' : `${preferences.number(v, { decimals: 2, sign: true })} %`
const words = (v: KitUse['verdict']) => (v ? `${v.pass ? 'passed' : 'failed'} ${percent(v.errorPct)}`.trim() : '')
const asked = ref<KitUse>()
const open = ref(false)
const made = ref(new Set<string>())
function ask(use: KitUse): void {
  asked.value = use
  open.value = true
}
const piece = computed(() => `${props.record.piece.name} ${props.record.piece.serial}`.trim())
</script>

<template>
  <section aria-labelledby="used-for">
    <h2 id="used-for">
      {{
        off ? 'Used for since it was last good' : record.goodOn ? 'Used for since it was last calibrated' : 'Used for'
      }}
    </h2>
    <p v-if="off" data-test="since">
      {{ record.goodOn ? `Good on ${dayWords(record.goodOn)}, ` : 'No calibration says that it ever was good; ' }}found
      off on {{ dayWords(off.day) }}. When it went off nobody knows: each figure that it read since is taken to be wrong
      by the whole error that was found.
      <b v-if="turned">{{ turned }} {{ turned === 1 ? 'verdict' : 'verdicts' }} would be another.</b>
      <span v-else-if="uses.length">No verdict would be another.</span>
      <span v-if="off && !off.points.length">
        Its calibration names no points, so nothing is reckoned: look at each.
      </span>
    </p>
    <p v-if="!uses.length" class="quiet">Nothing on record was done with it.</p>
    <GrowingTable v-else :columns="columns" :items="uses" :key-of="(u) => u.id">
      <template #row="{ item: u, at }">
        <tr :ref="at" :data-use="u.loop.tag">
          <td>
            <router-link :to="`/loops/${u.loop.id}/check`" class="tag">{{ u.loop.tag }}</router-link>
          </td>
          <td>
            {{ u.what === 'check' ? `check ${u.name.replace('-', ' ')}` : u.name }}
            <div class="small quiet">{{ dayWords(u.on) }}{{ u.signed ? '' : ', not signed' }}</div>
          </td>
          <td>{{ u.by }}</td>
          <td class="figures">{{ words(u.verdict) || '–' }}</td>
          <template v-if="off">
            <td class="figures">
              <GradeMark v-if="turns(u)" grade="stop" wordless /> {{ words(u.without) || '–' }}
              <div v-if="u.words" class="small quiet">{{ u.words }}</div>
            </td>
            <td class="figures">{{ percent(u.movedPct) || '–' }}</td>
            <td v-if="session.has('technician')">
              <span v-if="made.has(u.id)" class="small quiet" role="status">stands in the round</span>
              <v-btn
                v-else
                variant="text"
                :aria-label="`Make a job: repeat ${u.loop.tag} of ${dayWords(u.on)}`"
                @click="ask(u)"
                >Make a job of it</v-btn
              >
            </td>
          </template>
        </tr>
      </template>
    </GrowingTable>
    <p v-if="record.more" class="small quiet">
      And {{ record.more }} more before these, which are not listed: look through the audit.
    </p>
    <MakeJob
      v-if="asked"
      v-model="open"
      :loop="asked.loop"
      what="Repeat the check with a meter that is good"
      :why="`${piece} was found off; it was used here on ${dayWords(asked.on)}`"
      origin="kit"
      @made="made.add(asked.id)"
    />
  </section>
</template>

<style scoped>
.tag {
  font-weight: 700;
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
</style>
