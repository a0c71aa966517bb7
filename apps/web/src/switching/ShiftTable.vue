<script setup lang="ts">
// The shifts, a line each; the chosen one's working stands beside, and its rejected pieces are entered here.
import type { WatchedShift } from '@calm-loop/core/discrete'
import { shiftKey } from '@calm-loop/core/discrete'
import { ref } from 'vue'
import { useCount } from '../stores/count.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { dayWords } from '../widgets/dates.ts'

defineProps<{ shifts: readonly WatchedShift[]; chosen: string | undefined }>()
const emit = defineEmits<{ choose: [key: string] }>()
const count = useCount()
const session = useSession()
const preferences = usePreferences()
const pct = (v: number | null) => (v === null ? 'not known' : `${preferences.number(100 * v, { decimals: 1 })} %`)
const n = (v: number | null, unit: string, decimals: number) =>
  v === null ? 'not known' : preferences.quantity(v, unit, { decimals })
const pieces = ref('')
const says = ref('')
async function reject(s: WatchedShift): Promise<void> {
  const value = Number(pieces.value.trim())
  if (!Number.isInteger(value) || value < 0 || pieces.value.trim() === '') {
    says.value = 'A whole number, 0 or more.'
    return
  }
  says.value = ''
  if (await count.add({ what: 'rejected', day: s.shift.day, shift: s.shift.name, pieces: value })) pieces.value = ''
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Shifts">
    <v-table class="small">
      <thead>
        <tr>
          <th>Shift</th>
          <th class="num">Cycles</th>
          <th class="num">Mean</th>
          <th class="num">A minute</th>
          <th class="num">Long</th>
          <th class="num">Stopped</th>
          <th class="num">Rejected</th>
          <th class="num">OEE</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="s in shifts" :key="shiftKey(s.shift)">
          <tr :class="{ here: shiftKey(s.shift) === chosen }">
            <td>
              <button
                type="button"
                class="pick"
                :aria-pressed="shiftKey(s.shift) === chosen"
                @click="emit('choose', shiftKey(s.shift))"
              >
                {{ dayWords(s.shift.day) }}, {{ s.shift.name }}
              </button>
              <span v-if="s.watched < 0.98" class="look">watched {{ pct(s.watched) }}</span>
            </td>
            <td class="num">{{ s.count }}</td>
            <td class="num">{{ n(s.meanCycle_s, 's', 1) }}</td>
            <td class="num">
              {{ s.perMinute === null ? 'not known' : preferences.number(s.perMinute, { decimals: 2 }) }}
            </td>
            <td class="num">{{ s.longCycles ?? 'no limit' }}</td>
            <td class="num">{{ n(s.stopped_s / 60, 'min', 0) }}</td>
            <td class="num">{{ s.rejected }}</td>
            <td class="num">{{ pct(s.oee) }}</td>
          </tr>
          <tr v-if="shiftKey(s.shift) === chosen && session.has('technician')">
            <td colspan="8">
              <form class="reject" @submit.prevent="reject(s)">
                <label :for="`rej-${shiftKey(s.shift)}`">Rejected pieces in this shift</label>
                <input
                  :id="`rej-${shiftKey(s.shift)}`"
                  v-model="pieces"
                  inputmode="numeric"
                  class="figures"
                  autocomplete="off"
                />
                <v-btn type="submit" variant="outlined">Enter</v-btn>
                <span v-if="says" class="bad" role="alert">{{ says }}</span>
              </form>
            </td>
          </tr>
        </template>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.scroll {
  max-height: 520px;
  overflow: auto;
}
.pick {
  min-height: 44px;
  background: none;
  border: 0;
  color: var(--action);
  text-decoration: underline;
  font: inherit;
  cursor: pointer;
  white-space: nowrap;
}
.here .pick {
  font-weight: 700;
}
.look {
  color: var(--look);
  margin-left: 8px;
}
.reject {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
.reject input {
  width: 110px;
  min-height: 44px;
  border: 0;
  border-bottom: 1px solid var(--second);
  background: none;
  color: var(--ink);
  font-size: 18px;
}
</style>
