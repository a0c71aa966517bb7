<script setup lang="ts">
// The working behind a figure: formula, the numbers in it, source.
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'
import { useWorking } from '../stores/working.ts'

const store = useWorking()
const working = computed(() => store.shown)
</script>

<template>
  <aside v-if="working" class="drawer" aria-label="Working" @keydown.esc="store.hide()">
    <div class="top">
      <h2>{{ working.title }}</h2>
      <v-btn :icon="mdiClose" variant="text" aria-label="Close the working" @click="store.hide()" />
    </div>
    <h3 class="quiet">Formula</h3>
    <p class="figures">{{ working.formula }}</p>
    <h3 class="quiet">With the numbers</h3>
    <p class="figures" data-test="working-numbers">{{ working.numbers }}</p>
    <h3 class="quiet">Source</h3>
    <p>{{ working.source }}</p>
  </aside>
</template>

<style scoped>
.drawer {
  border-left: 1px solid var(--hairline);
  padding: 0 0 16px 24px;
  position: sticky;
  top: 148px;
  align-self: start;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 8px;
  margin-bottom: 8px;
}
h3 {
  font-size: 14px;
  margin-top: 12px;
}
</style>
