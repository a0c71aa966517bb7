<script setup lang="ts" generic="Id extends string">
// What is said before something is done: each by its own box.
defineProps<{ legend: string; how: string; boxes: readonly (readonly [id: Id, words: string])[] }>()
const said = defineModel<Id[]>({ required: true })
</script>

<template>
  <fieldset class="caution">
    <legend>
      <b>{{ legend }}</b> {{ how }}
    </legend>
    <v-checkbox
      v-for="[id, words] in boxes"
      :key="id"
      v-model="said"
      density="compact"
      hide-details
      :value="id"
      :label="words"
    />
  </fieldset>
</template>

<style scoped>
fieldset {
  border-width: 0 0 0 4px;
}
</style>
