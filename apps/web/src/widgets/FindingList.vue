<script setup lang="ts">
// Findings of a stage: what, why, how sure, what to do. They come one frame after the figures that they judge.
import { acceptedOf, lessonOf, type Finding } from '@calm-loop/core/findings'
import AskForJob from '../round/AskForJob.vue'
import { useAfterFrame } from './afterFrame.ts'
import GradeMark from './GradeMark.vue'

const props = defineProps<{ findings: readonly Finding[] }>()
const lesson = (f: Finding) => lessonOf(f, acceptedOf(f.code))
const ASKED = ['What happens', 'What you would see', 'What people get wrong'] as const
const shown = useAfterFrame(() => props.findings)
</script>

<template>
  <section v-if="shown.length" aria-label="Findings" aria-live="polite">
    <article
      v-for="finding in shown"
      :key="finding.code + finding.fields.join()"
      class="finding"
      :data-code="finding.code"
    >
      <GradeMark :grade="finding.grade" />
      <div>
        <p class="what">{{ finding.what }}</p>
        <p>
          {{ finding.why }} <span class="quiet">{{ finding.sure }}</span>
        </p>
        <p>{{ finding.action }}</p>
        <div class="acts">
          <details class="why">
            <summary>Why</summary>
            <dl>
              <template v-for="(line, i) in lesson(finding)" :key="line">
                <dt>{{ ASKED[i] }}</dt>
                <dd>{{ line }}</dd>
              </template>
            </dl>
          </details>
          <AskForJob v-if="finding.grade !== 'note'" :what="finding.action" :why="finding.what" origin="finding" />
        </div>
      </div>
    </article>
  </section>
</template>

<style scoped>
.finding {
  display: grid;
  grid-template-columns: 84px 1fr;
  padding: 12px 0 4px;
  border-top: 1px solid var(--hairline);
}
.what {
  font-weight: 650;
}
p {
  margin-bottom: 4px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: 0 16px;
}
.why[open] {
  order: 2;
  flex-basis: 100%;
}
.why summary {
  color: var(--action);
  cursor: pointer;
  min-height: 44px;
  display: inline-flex;
  align-items: center;
  text-decoration: underline;
  text-underline-offset: 3px;
}
.why dl {
  margin: 0 0 8px;
}
.why dt {
  color: var(--second);
  font-size: 14px;
}
.why dd {
  margin: 0 0 6px;
}
</style>
