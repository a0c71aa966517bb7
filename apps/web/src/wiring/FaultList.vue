<script setup lang="ts">
// The faults that explain the readings best, those that would read the same together; and where to measure next.
import type { LoopSpot } from '@calm-loop/contract'
import { computed } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import type { Explained } from '../workers/explain.worker.ts'
import { fits, worthShowing } from './fits.ts'

const props = defineProps<{
  explained: Explained | undefined
  working: boolean
  /** In words, where a reading is taken. */
  where: (spot: LoopSpot) => string
  /** What is read there, with its unit. */
  show: (value: number, spot: LoopSpot) => string
}>()
const emit = defineEmits<{ show: [where: readonly string[]]; measure: [spot: LoopSpot] }>()
const preferences = usePreferences()
const NOTHING_FITS =
  'No fault explains these readings, nor do two at once. A reading may be wrong, or the wiring is not as drawn: take ' +
  'one again.'
const TRIED = 'Every fault is tried on the wiring as drawn, of the meter too, and two at once where one is not enough.'
const good = computed(() => worthShowing(props.explained?.groups ?? []))
const about = (f: { value: number; unit: string }) =>
  `, about ${preferences.quantity(f.value, f.unit, { decimals: f.value < 10 ? 1 : 0 })}`
</script>

<template>
  <div aria-live="polite">
    <h3>What explains it</h3>
    <p v-if="working && !explained" class="quiet">Trying every fault, and two together</p>
    <p v-else-if="working" class="quiet">A first look; two faults together are still tried</p>
    <p v-if="!(working && !explained) && !good.length" class="quiet">
      {{ explained ? NOTHING_FITS : TRIED }}
    </p>
    <article v-for="(group, i) in good" :key="group[0]!.id" class="group" :data-rank="i + 1">
      <p class="rank">
        <b class="figures">{{ i + 1 }}</b> <span class="quiet small">{{ fits(group[0]!.misfit) }}</span>
      </p>
      <div>
        <p v-for="e in group.slice(0, 4)" :key="e.id" class="fault">
          <button type="button" class="link" @click="emit('show', e.where)">
            {{ e.says }}{{ e.figure ? about(e.figure) : '' }}
          </button>
        </p>
        <p v-if="group.length > 4" class="quiet small">and {{ group.length - 4 }} more that would read the same.</p>
      </div>
    </article>
    <div v-if="explained?.next" class="next">
      <h3>Measure next</h3>
      <p>
        {{ explained.next.spot.of === 'volts' ? 'Volts, ' : 'mA, '
        }}<b class="figures">{{ where(explained.next.spot) }}</b
        >. It would read
      </p>
      <v-table>
        <tbody>
          <tr v-for="e in explained.next.expects" :key="e.says">
            <td>{{ e.says }}</td>
            <td class="num">{{ show(e.value, explained.next.spot) }}</td>
          </tr>
        </tbody>
      </v-table>
      <v-btn variant="outlined" class="mt-2" @click="emit('measure', explained.next.spot)">Take this reading</v-btn>
    </div>
  </div>
</template>

<style scoped>
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
</style>
