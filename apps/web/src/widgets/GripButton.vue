<script setup lang="ts">
// By which a row of a list is moved: dragged, or by the arrow keys.
import { mdiDragVertical } from '@mdi/js'

defineProps<{ what: string }>()
</script>

<template>
  <button type="button" class="grip" :aria-label="`Move ${what}: up and down keys, or drag`">
    <v-icon :icon="mdiDragVertical" size="24" />
  </button>
</template>

<style scoped>
.grip {
  width: 44px;
  height: 44px;
  border: 0;
  background: none;
  color: var(--second);
  cursor: grab;
  touch-action: none;
}
</style>
