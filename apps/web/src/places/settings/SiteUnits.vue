<script setup lang="ts">
// The units that new loops begin in: one system, or a unit for each quantity.
import type { SiteUnits } from '@calm-loop/contract'
import { spokenKey, UNIT_SYSTEMS, unitFields } from '@calm-loop/core/kinds'
import { SPOKEN_CLASSES, type SpokenClass } from '@calm-loop/core/quantity'
import { onMounted, ref, watch } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useSite } from '../../stores/site.ts'
import { useDoing } from '../../widgets/doing.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { sure } from '@calm-loop/core/sure'

const site = useSite()
const session = useSession()
const { busy, says, run } = useDoing()
onMounted(site.loadUnits)

const wanted = ref<SiteUnits>(site.units)
let touched = false
watch(
  () => site.units,
  (units) => touched || (wanted.value = units),
)
const CLASSES = (Object.keys(SPOKEN_CLASSES) as SpokenClass[]).map((of) => {
  const field = sure(unitFields.find((f) => f.key === spokenKey(of)))
  return { of, label: field.label, help: field.help, options: field.type === 'choice' ? field.options : [] }
})
const ONE_BY_ONE = UNIT_SYSTEMS[2]
function choose(units: string): void {
  wanted.value = { ...wanted.value, units: units as SiteUnits['units'] }
  touched = true
}
function take(of: SpokenClass, unit: string): void {
  wanted.value = { ...wanted.value, chosen: { ...wanted.value.chosen, [of]: unit } }
  touched = true
}
async function save(): Promise<void> {
  if (await run(() => site.saveUnits(wanted.value))) touched = false
}
</script>

<template>
  <section aria-label="Units of this site" class="units">
    <h2>Units of this site</h2>
    <p class="quiet">
      New loops begin in them. A loop that is entered keeps its own, which stand under Identify: what is on record reads
      as it was written.
    </p>
    <form v-if="session.hasDuty('limits')" class="edit-grid" @submit.prevent="save">
      <ChoiceField
        label="Units"
        :options="UNIT_SYSTEMS.map((value) => ({ value, label: value }))"
        :value="wanted.units"
        @choose="choose"
      />
      <template v-if="wanted.units === ONE_BY_ONE">
        <ChoiceField
          v-for="c in CLASSES"
          :key="c.of"
          :label="c.label"
          :help="c.help"
          :options="c.options"
          :value="wanted.chosen[c.of] ?? c.options[0]?.value ?? ''"
          @choose="take(c.of, $event)"
        />
      </template>
      <div class="do"><v-btn type="submit" :loading="busy" data-test="save-units">Set for the site</v-btn></div>
    </form>
    <p v-else class="small quiet">{{ site.units.units }}. A {{ session.session?.duties.limits }} may change that.</p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </section>
</template>
