<script setup lang="ts">
// Findings of a stage: what, why, how sure, what to do. They come one frame after the figures that they judge.
import type { Finding } from '@calm-loop/core/findings'
import { useAfterFrame } from './afterFrame.ts'
import GradeMark from './GradeMark.vue'

const props = defineProps<{ findings: readonly Finding[] }>()
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
</style>
