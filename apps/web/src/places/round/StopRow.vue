<script setup lang="ts">
// One stop of the round: where, what for, how long, and by which record that is expected.
import type { Job } from '@calm-loop/contract'
import { checkWords, isLateMade, spreadWords, USUAL, type Stop, type Timed } from '@calm-loop/core/round'
import { computed } from 'vue'
import GradeMark from '../../widgets/GradeMark.vue'
import GripButton from '../../widgets/GripButton.vue'
import { dayWords } from '../../widgets/dates.ts'

const props = defineProps<{ timed: Timed<Stop>; service: string; heading: boolean; mayEnd: boolean }>()
const emit = defineEmits<{ key: [event: KeyboardEvent]; end: [job: Job] }>()
const stop = computed(() => props.timed.stop)
const works = computed(() => stop.value.works.map((w) => USUAL[w].name).join(', '))
const rests = computed(() => {
  const { visits } = stop.value.expected
  return visits === undefined ? 'usual' : `of ${visits} visits here`
})
const ORIGIN = {
  finding: 'from a finding',
  'failed-check': 'after a failed check',
  call: 'called in',
  stop: 'from a stop',
  kit: 'its meter was found off',
}
const from = (job: Job) => [`from ${job.from}`, ORIGIN[job.origin], job.why].filter(Boolean).join('; ')
</script>

<template>
  <li :data-id="stop.loop.id" class="stop-row" data-test="stop">
    <h3 v-if="heading" class="area">
      {{ stop.loop.area }}
      <span v-if="stop.unplaced" class="small quiet">has no place in the walking order</span>
    </h3>
    <div class="line">
      <GripButton :what="stop.loop.tag" @keydown="emit('key', $event)" />
      <div class="when figures">{{ timed.from }}</div>
      <div class="what">
        <router-link :to="`/loops/${stop.loop.id}${stop.check ? '/check' : ''}`" class="figures tag">{{
          stop.loop.tag
        }}</router-link>
        <span class="service">{{ service }}</span>
        <p v-if="stop.check" class="check">
          <GradeMark v-if="stop.check.overdue" grade="look" wordless />
          {{ checkWords(stop.check, dayWords) }}
        </p>
        <p v-for="job in stop.jobs as Job[]" :key="job.id" class="job" data-test="job">
          <span class="dot" aria-hidden="true" />
          <span class="words"
            ><b>{{ job.what }}</b
            ><template v-if="job.by">, by {{ dayWords(job.by) }}</template>
            <span v-if="isLateMade(job)" class="look small"> was due before it was made</span>
            <span class="small quiet from">{{ from(job) }}</span></span
          >
          <v-btn v-if="mayEnd" variant="text" :aria-label="`End the job: ${job.what}`" @click="emit('end', job)"
            >Done</v-btn
          >
        </p>
      </div>
      <div class="takes">
        <span class="figures">{{ spreadWords(stop.expected) }}</span>
        <span class="small quiet">{{ rests }}</span>
        <span class="small quiet works">{{ works }}</span>
      </div>
    </div>
  </li>
</template>

<style scoped>
.stop-row {
  border-bottom: 1px solid var(--hairline);
}
.area {
  padding: 14px 0 2px;
}
.line {
  display: grid;
  grid-template-columns: 44px 60px minmax(0, 1fr) 190px;
  align-items: baseline;
  padding: 2px 0 6px;
}
.line > .grip {
  align-self: start;
}
.tag {
  display: inline-block;
  padding: 10px 10px 6px 0;
  font-size: 18px;
  font-weight: 650;
  text-decoration: none;
}
.tag:hover {
  text-decoration: underline;
}
p {
  margin: 0 0 2px;
}
.job {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.words {
  flex: 1;
}
.from {
  display: block;
}
.dot {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--signal);
  flex: none;
}
.look {
  color: var(--look);
}
.takes {
  display: flex;
  flex-direction: column;
}
@media (max-width: 700px) {
  .line {
    grid-template-columns: 44px minmax(0, 1fr);
  }
  .when {
    padding-top: 10px;
  }
  .what,
  .takes {
    grid-column: 1 / -1;
    padding-left: 44px;
  }
  .tag {
    padding: 0 10px 2px 0;
  }
  .takes {
    flex-flow: row wrap;
    gap: 0 10px;
  }
}
</style>
