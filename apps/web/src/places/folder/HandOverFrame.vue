<script setup lang="ts">
// What every hand over has: the verdict, what it rests on (slots), the loop given back, two signatures, the documents,
// and earlier checks.
import type { Check } from '@calm-loop/contract'
import { isPractice, PRACTICE, standingByPoint, standOfCheck } from '@calm-loop/contract/judging'
import { computed } from 'vue'
import { addressOf } from '../../api/client.ts'
import AskForJob from '../../round/AskForJob.vue'
import { useFolder } from '../../stores/folder.ts'
import { moment } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import CheckHistory from './CheckHistory.vue'
import DueNext from './DueNext.vue'
import MeasuredSince from './MeasuredSince.vue'
import SignCheck from './SignCheck.vue'
import VerificationWork from './VerificationWork.vue'
import VisitWork from './VisitWork.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{
  check: Check | undefined
  /** Undefined while nothing was read. */
  verdict: { pass: boolean; words: string } | undefined
}>()
const emit = defineEmits<{ choose: [id: string] }>()
const folder = useFolder()
/** A verdict over some of the points is not yet the check's. */
const whole = computed(() => !!props.check && standingByPoint(props.check).size === props.check.points.length)
const stand = computed(() => props.check && standOfCheck(props.check))
const params = computed(() => ({ loopId: sure(folder.view).loop.id, checkId: props.check?.id ?? '' }))
</script>

<template>
  <section aria-label="Hand over">
    <VisitWork />
    <VerificationWork />
    <template v-if="check">
      <p v-if="stand === 'broken'" class="standing bad" role="alert" data-test="stand">
        <GradeMark grade="stop" /> Seal broken: what was signed is not what stands here. It is no certificate, and it
        never passes. Whoever looks after this installation must find out what was changed.
      </p>
      <p v-else-if="isPractice(check)" class="standing look" data-test="stand">
        <GradeMark grade="look" /> {{ PRACTICE }}
      </p>
      <p v-else-if="check.imported" class="standing look" data-test="stand">
        <GradeMark grade="look" /> Made elsewhere, brought in {{ moment(check.imported.at)
        }}{{ check.imported.by ? ` by ${check.imported.by.name}` : '' }}.
        {{
          stand === 'imported'
            ? 'It does not count as a check of this installation until a reviewer accepts it.'
            : 'A reviewer of this installation has accepted it.'
        }}
      </p>
      <div class="verdict">
        <h2 v-if="stand === 'broken'" class="fail" data-test="verdict">Seal broken</h2>
        <h2 v-else-if="verdict" :class="verdict.pass ? 'pass' : 'fail'" data-test="verdict">
          {{ verdict.words }}{{ whole ? '' : ' so far' }}
        </h2>
        <h2 v-else>Nothing read yet</h2>
        <span class="quiet"
          >{{ check.phase === 'as-found' ? 'as found' : 'as left' }}, begun {{ moment(check.startedAt) }} by
          {{ check.startedBy.name }}</span
        >
        <AskForJob
          v-if="verdict && !verdict.pass && whole && !isPractice(check)"
          what="Bring it back into tolerance, and check it as left"
          :why="`${verdict.words} (${check.phase === 'as-found' ? 'as found' : 'as left'}, ${moment(check.startedAt)})`"
          origin="failed-check"
        />
      </div>
      <slot />
      <MeasuredSince />
      <SignCheck v-if="!isPractice(check)" :key="check.id" :check="check" />
      <div class="papers">
        <v-btn :href="addressOf('certificate', params)" target="_blank">{{
          isPractice(check) ? 'Practice sheet (PDF)' : 'Certificate (PDF)'
        }}</v-btn>
        <v-btn :href="addressOf('readingsCsv', params)" download>Readings (CSV)</v-btn>
        <v-btn :href="addressOf('bundle', params)" download>Whole folder (JSON)</v-btn>
      </div>
      <details>
        <summary>{{ check.readings.length }} readings</summary>
        <slot name="readings" />
      </details>
    </template>
    <p v-else class="quiet">
      {{ folder.practising ? 'Nothing has been practised yet.' : 'Nothing has been checked yet.' }}
      <router-link :to="`/loops/${folder.view!.loop.id}/check`">Begin a check</router-link>. The folder itself can be
      taken along at any time: <a :href="addressOf('bundle', params)" download>whole folder (JSON)</a>.
    </p>
    <DueNext />
    <CheckHistory v-if="(folder.view?.checks.length ?? 0) > 1" :shown="check?.id" @choose="emit('choose', $event)" />
  </section>
</template>

<style scoped>
.standing {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.look {
  color: var(--look);
}
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
