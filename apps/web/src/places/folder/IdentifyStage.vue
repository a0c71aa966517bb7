<script setup lang="ts">
// Identify: what is mounted, and what hangs on its signal.
import StagePage from './StagePage.vue'
</script>

<template>
  <StagePage
    stage="identify"
    title="Identify"
    caution="Find out what moves when this signal moves before anything is disconnected."
  />
</template>
