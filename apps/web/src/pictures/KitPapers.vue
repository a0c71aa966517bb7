<script setup lang="ts">
// The certificates of the kit that a loop was checked with, as it was calibrated then: one press away.
import type { KitBehind } from '@calm-loop/contract/kit-record'
import { computed, ref, shallowRef, watch } from 'vue'
import { addressOf, call } from '../api/client.ts'
import { dayWords } from '../widgets/dates.ts'

const props = defineProps<{ loopId: string }>()
const behind = shallowRef<readonly KitBehind[]>([])
/** The newest of each piece, until those before are asked for. */
const whole = ref(false)
const newest = computed(() => behind.value.filter((k, i, all) => all.findIndex((o) => o.gearId === k.gearId) === i))
const listed = computed(() => (whole.value ? behind.value : newest.value))
watch(
  () => props.loopId,
  async (loopId) => {
    behind.value = []
    whole.value = false
    const read = await call('kitBehind', { params: { loopId } }).catch(() => [])
    if (loopId === props.loopId) behind.value = read
  },
  { immediate: true },
)
const fileAt = (gearId: string, calibrationId: string) => addressOf('kitCertificate', { gearId, calibrationId })
</script>

<template>
  <section v-if="behind.length" aria-labelledby="kit-behind" data-test="kit-behind">
    <h3 id="kit-behind">Certificates of the kit that it was checked with</h3>
    <ul>
      <li v-for="k in listed" :key="`${k.gearId} ${k.certificate} ${k.calibration?.id}`">
        <span>
          {{ k.name }} <span class="quiet small figures serial">{{ k.serial }}</span>
        </span>
        <template v-if="k.calibration">
          <a
            v-if="k.calibration.file"
            :href="fileAt(k.gearId, k.calibration.id)"
            class="link goto"
            :aria-label="`Open certificate ${k.calibration.certificate} of ${k.name}`"
            ><span class="figures">{{ k.calibration.certificate }}</span></a
          >
          <span v-else>
            <span class="figures">{{ k.calibration.certificate }}</span>
            <span class="quiet small"> not kept</span>
          </span>
          <span class="quiet small">calibrated {{ dayWords(k.calibration.day) }}</span>
        </template>
        <span v-else class="quiet small without">
          <span class="figures">{{ k.certificate }}</span>
          {{ k.certificate ? 'is not on record here' : 'no calibration of then on record' }}
        </span>
        <span class="quiet small">used {{ dayWords(k.usedOn.slice(0, 10)) }}</span>
      </li>
    </ul>
    <button v-if="listed.length < behind.length" type="button" class="link small more" @click="whole = true">
      Show {{ behind.length - listed.length }} earlier
    </button>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr) minmax(0, 1fr) minmax(0, 0.8fr);
  align-items: center;
  gap: 0 16px;
  min-height: 44px;
  border-bottom: 1px solid var(--hairline);
}
.without {
  grid-column: span 2;
}
.goto {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
.serial {
  white-space: nowrap;
}
.more {
  min-height: 44px;
  padding-inline: 0;
}
@media (max-width: 560px) {
  li {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    padding: 4px 0;
  }
  .without {
    grid-column: auto;
  }
}
</style>
