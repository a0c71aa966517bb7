<script setup lang="ts">
// Wire: where the volts of the supply go, and the load line.
import { defineAsyncComponent } from 'vue'
import StagePage from './StagePage.vue'
import VoltStacks from './VoltStacks.vue'

const LoadLine = defineAsyncComponent(() => import('./LoadLine.vue'))
</script>

<template>
  <StagePage
    stage="wire"
    title="Wire"
    caution="Power off and proved dead before a conductor is moved or a meter goes in series. Mains on a transmitter’s terminals is work for a licensed person."
  >
    <template #drawing>
      <div class="pair">
        <VoltStacks />
        <LoadLine />
      </div>
    </template>
  </StagePage>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
}
@media (max-width: 740px) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
