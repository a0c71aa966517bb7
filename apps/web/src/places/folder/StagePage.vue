<script setup lang="ts">
// The shape every stage of entries has: its drawing first, its entries beside the figures, its findings, its cautions.
import type { StageId } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import FigureList from '../../widgets/FigureList.vue'
import FindingList from '../../widgets/FindingList.vue'
import { stageOfFinding } from './findings.ts'
import SaveLine from './SaveLine.vue'
import StageEntries from './StageEntries.vue'

const props = defineProps<{ stage: StageId; title: string; caution?: string }>()
const folder = useFolder()
const figures = computed(() => folder.study?.figures.filter((f) => f.stage === props.stage) ?? [])
const findings = computed(
  () => folder.study?.findings.filter((f) => stageOfFinding(folder.kind!, f) === props.stage) ?? [],
)
</script>

<template>
  <section :aria-label="title">
    <h2 class="visually-hidden">{{ title }}</h2>
    <div v-if="$slots['drawing']" class="drawing"><slot name="drawing" /></div>
    <FindingList :findings="findings" />
    <div class="two" :class="{ one: !figures.length }">
      <StageEntries :stage="stage" :columns="figures.length ? 2 : 3" />
      <FigureList v-if="figures.length" :figures="figures" class="figures-list" />
    </div>
    <slot name="more" />
    <p v-if="caution" class="caution small">
      <b>Caution.</b> {{ caution }} Site procedure, local codes and licensed practice come first.
    </p>
    <SaveLine />
  </section>
</template>

<style scoped>
.drawing {
  contain: content;
  will-change: transform;
  margin-bottom: 16px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(260px, 1fr);
  gap: 32px;
}
.one {
  grid-template-columns: minmax(0, 1fr);
}
.caution {
  border-left: 4px solid var(--look);
  padding: 4px 0 4px 12px;
  margin: 8px 0 16px;
}
@media (max-width: 740px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
}
</style>
