<script setup lang="ts">
// What every hand over has: the verdict, what it rests on (slots), the loop given back, two signatures, the documents, and earlier checks.
import { standingByPoint, type Check } from '@calm-loop/contract'
import { computed } from 'vue'
import { addressOf } from '../../api/client.ts'
import { useFolder } from '../../stores/folder.ts'
import { moment } from '../../widgets/dates.ts'
import CheckHistory from './CheckHistory.vue'
import SignCheck from './SignCheck.vue'

const props = defineProps<{
  check: Check | undefined
  /** Undefined while nothing was read. */
  verdict: { pass: boolean; words: string } | undefined
}>()
const emit = defineEmits<{ choose: [id: string] }>()
const folder = useFolder()
/** A verdict over some of the points is not yet the check's. */
const whole = computed(() => !!props.check && standingByPoint(props.check).size === props.check.points.length)
const params = computed(() => ({ loopId: folder.view!.loop.id, checkId: props.check?.id ?? '' }))
</script>

<template>
  <section aria-label="Hand over">
    <template v-if="check">
      <div class="verdict">
        <h2 v-if="verdict" :class="verdict.pass ? 'pass' : 'fail'" data-test="verdict">
          {{ verdict.words }}{{ whole ? '' : ' so far' }}
        </h2>
        <h2 v-else>Nothing read yet</h2>
        <span class="quiet"
          >{{ check.phase === 'as-found' ? 'as found' : 'as left' }}, begun {{ moment(check.startedAt) }} by
          {{ check.startedBy.name }}</span
        >
      </div>
      <slot />
      <SignCheck :key="check.id" :check="check" />
      <div class="papers">
        <v-btn :href="addressOf('certificate', params)" target="_blank">Certificate (PDF)</v-btn>
        <v-btn :href="addressOf('readingsCsv', params)" download>Readings (CSV)</v-btn>
        <v-btn :href="addressOf('bundle', params)" download>Whole folder (JSON)</v-btn>
      </div>
      <details>
        <summary>{{ check.readings.length }} readings</summary>
        <slot name="readings" />
      </details>
    </template>
    <p v-else class="quiet">
      Nothing has been checked yet.
      <router-link :to="`/loops/${folder.view!.loop.id}/check`">Begin a check</router-link>. The folder itself can be
      taken along at any time: <a :href="addressOf('bundle', params)" download>whole folder (JSON)</a>.
    </p>
    <CheckHistory v-if="(folder.view?.checks.length ?? 0) > 1" :shown="check?.id" @choose="emit('choose', $event)" />
  </section>
</template>

<style scoped>
.verdict {
  display: flex;
  align-items: baseline;
  gap: 16px;
  flex-wrap: wrap;
}
.papers {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 16px 0;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
}
</style>
