<script setup lang="ts">
// Which buffer an electrode stands in, said by hand: asked only where the signal does not tell.
defineProps<{ buffers: readonly string[]; value: string }>()
const emit = defineEmits<{ name: [buffer: string] }>()
</script>

<template>
  <div class="which" role="group" aria-label="Which buffer it is">
    <span class="small quiet">Where the signal does not tell which buffer it is, say so:</span>
    <v-btn
      v-for="b in buffers"
      :key="b"
      :variant="b === value ? 'flat' : 'outlined'"
      :color="b === value ? 'primary' : undefined"
      :aria-pressed="b === value"
      @click="emit('name', b === value ? '' : b)"
      >{{ b }}</v-btn
    >
  </div>
</template>

<style scoped>
.which {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  flex-basis: 100%;
}
</style>
