<script setup lang="ts">
// The shape every stage of entries has: its drawing first, its entries beside the figures, its findings, its cautions.
import type { StageId } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import FigureList from '../../widgets/FigureList.vue'
import FindingList from '../../widgets/FindingList.vue'
import { stageOfFinding } from './findings.ts'
import ReEnterList from './ReEnterList.vue'
import SaveLine from './SaveLine.vue'
import StageEntries from './StageEntries.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{
  stage: StageId
  title: string
  caution?: string | undefined
  /** Groups of entries shown here; all when not given. */
  groups?: readonly string[]
  /** Figures shown here, by id; all of the stage when not given. */
  only?: readonly string[]
}>()
const folder = useFolder()
const figures = computed(
  () =>
    folder.study?.figures.filter((f) => f.stage === props.stage && (!props.only || props.only.includes(f.id))) ?? [],
)
const findings = computed(
  () => folder.study?.findings.filter((f) => stageOfFinding(sure(folder.kind), f) === props.stage) ?? [],
)
</script>

<template>
  <section :aria-label="title">
    <h2 class="visually-hidden">{{ title }}</h2>
    <div v-if="$slots['drawing']" class="drawing"><slot name="drawing" /></div>
    <ReEnterList />
    <FindingList :findings="findings" />
    <slot name="beside" />
    <div class="entries-and-figures" :class="{ one: !figures.length }">
      <StageEntries :stage="stage" :groups="groups" :columns="figures.length ? 2 : 3" />
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
</style>
