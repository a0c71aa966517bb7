<script setup lang="ts">
// Stands where the bench's controls would be, while nothing is simulated.
defineProps<{ instead?: string }>()
</script>

<template>
  <p class="quiet" data-test="no-bench">
    The bench is not connected: nothing here is simulated. {{ instead }} To practise, connect it at the head of this
    page.
  </p>
</template>
