<script setup lang="ts">
// What was marked as being the case at a step: each with what it means and what to do about it, the gravest first.
import { marksOf, type StepMark } from '@calm-loop/core/sheet'
import { computed } from 'vue'
import GradeMark from '../widgets/GradeMark.vue'

const props = defineProps<{ marks: readonly StepMark[]; ids: readonly string[] }>()
const shown = computed(() => marksOf(props.marks, props.ids))
</script>

<template>
  <p v-if="!shown.length" class="quiet small" data-test="none-marked">None was active.</p>
  <ul v-else class="marked" data-test="marked">
    <li v-for="m in shown" :key="m.id">
      <GradeMark :grade="m.grade" />
      <div>
        <b>{{ m.name }}.</b> {{ m.means }} <span class="quiet">{{ m.act }}</span>
      </div>
    </li>
  </ul>
</template>

<style scoped>
.marked {
  list-style: none;
  margin: 0;
  padding: 0;
  max-width: 74ch;
}
li {
  display: grid;
  grid-template-columns: 72px 1fr;
  gap: 8px;
  padding: 6px 0;
}
</style>
