<script setup lang="ts">
// A few names at hand, any of which may be chosen, as buttons that stay down.
withDefaults(
  defineProps<{
    label: string
    names: readonly string[]
    chosen: readonly string[]
    /** What stands on a button, where it is not the name alone. */
    words?: (name: string) => string
  }>(),
  { words: (name: string) => name },
)
const emit = defineEmits<{ toggle: [name: string] }>()
</script>

<template>
  <div class="names" role="group" :aria-label="label">
    <span class="small quiet">{{ label }}</span>
    <v-btn
      v-for="name in names"
      :key="name"
      :variant="chosen.includes(name) ? 'flat' : 'outlined'"
      :color="chosen.includes(name) ? 'primary' : undefined"
      :aria-pressed="chosen.includes(name)"
      @click="emit('toggle', name)"
      >{{ words(name) }}</v-btn
    >
    <slot />
  </div>
</template>

<style scoped>
.names {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  flex-basis: 100%;
  margin-bottom: 12px;
}
.names > .small {
  min-width: 110px;
}
.names > :deep(.entry) {
  width: min(320px, 100%);
}
</style>
