<script setup lang="ts">
// The bench stand-in: bring its process to the point, or anywhere.
import { entryIn, type Entry } from '@calm-loop/core/quantity'
import { ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { usePreferences } from '../../stores/preferences.ts'
import QuantityField from '../../widgets/QuantityField.vue'
import { unitOf } from '@calm-loop/core/quantity'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ nominal: number; unit: string; process: string }>()
const emit = defineEmits<{ bring: [] }>()
const live = useLive()
const folder = useFolder()
const preferences = usePreferences()
const wanted = ref<Entry>({ typed: '' })
const own = ref(false)
const shown = (v: number) => preferences.quantity(v, props.unit, { decimals: 1, trim: true })
function move(): void {
  const value = entryIn(wanted.value, props.unit)
  if (value !== undefined) void live.move(sure(folder.view).loop.id, value)
}
</script>

<template>
  <div v-if="live.connected || live.problem" class="bench">
    <div v-if="live.connected" class="row">
      <v-btn data-test="bring" @click="emit('bring')"
        >Bring to {{ preferences.quantity(nominal, unit, { decimals: 1, trim: true }) }}
        <span class="figures quiet key">B</span></v-btn
      >
      <v-btn variant="text" :aria-expanded="own" @click="own = !own">Elsewhere</v-btn>
    </div>
    <QuantityField
      v-if="own && live.connected"
      :label="`${process} to go to`"
      :quantity="unitOf(unit).quantity"
      :unit="unit"
      :entry="wanted"
      :help="live.limits ? `From ${shown(live.limits.lowest)} to ${shown(live.limits.highest)}. Enter moves it.` : ''"
      @entry="wanted = $event"
      @enter="move"
    />
    <p v-if="live.problem" class="bad small" role="alert">{{ live.problem }}</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 8px;
  flex-wrap: wrap;
  margin: 4px 0 8px;
}
.key {
  margin-left: 10px;
  border: 1px solid var(--hairline);
  padding: 0 6px;
}
.live {
  color: var(--signal);
}
</style>
