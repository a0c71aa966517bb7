<script setup lang="ts">
// A few tags, none broken over two lines; how many more there are.
import { computed } from 'vue'

const props = defineProps<{ tags: readonly string[] }>()
const MOST = 3
const shown = computed(() => props.tags.slice(0, MOST))
const more = computed(() => props.tags.length - shown.value.length)
</script>

<template>
  <span class="small quiet tags"
    ><span v-for="(tag, i) in shown" :key="tag" class="figures one"
      >{{ tag }}{{ i < shown.length - 1 ? ', ' : '' }}</span
    ><template v-if="more > 0"> and {{ more }} more</template></span
  >
</template>

<style scoped>
.one {
  display: inline-block;
  margin-right: 4px;
  white-space: nowrap;
}
</style>
