<script setup lang="ts">
// What the stage is for, unfolded by whoever asks.
import { stageHelp, type Family, type StageId } from '@calm-loop/core/kinds'
import { computed } from 'vue'

const props = defineProps<{ family: Family; stage: StageId }>()
const help = computed(() => stageHelp(props.family, props.stage))
</script>

<template>
  <details v-if="help" class="help" data-test="stage-help">
    <summary>What this stage is for</summary>
    <dl>
      <dt>What</dt>
      <dd>{{ help.what }}</dd>
      <dt>Why</dt>
      <dd>{{ help.why }}</dd>
      <dt>How</dt>
      <dd>{{ help.how }}</dd>
      <dt>What people get wrong</dt>
      <dd>{{ help.wrong }}</dd>
    </dl>
  </details>
</template>

<style scoped>
summary {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
  color: var(--second);
  font-size: 14px;
  cursor: pointer;
  text-decoration: underline;
  text-underline-offset: 3px;
}
dl {
  display: grid;
  grid-template-columns: minmax(90px, auto) minmax(0, 70ch);
  gap: 4px 20px;
  margin: 0 0 16px;
}
dt {
  color: var(--second);
}
dd {
  margin: 0;
}
@media (max-width: 560px) {
  dl {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
