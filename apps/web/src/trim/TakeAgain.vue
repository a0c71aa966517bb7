<script setup lang="ts">
// A figure of the run that was misread, taken again without ending it.
import { retakable, type RunState } from '@calm-loop/core/procedure'
import { computed, ref, watch } from 'vue'
import { useTrim } from '../stores/trim.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import WordsField from '../widgets/WordsField.vue'

const props = defineProps<{ run: string; state: RunState }>()
const trim = useTrim()
const steps = computed(() => retakable(props.state))
const shown = ref(false)
const chosen = ref('')
const reason = ref('')
const which = computed(() =>
  steps.value.some((s) => s.id === chosen.value) ? chosen.value : (steps.value[0]?.id ?? ''),
)
watch(
  () => props.state.at,
  () => (chosen.value = reason.value = ''),
)
const again = () => void trim.act(props.run, { do: 'again', step: which.value, reason: reason.value.trim() })
</script>

<template>
  <details
    v-if="steps.length"
    class="again"
    data-test="again"
    @toggle="shown = ($event.target as HTMLDetailsElement).open"
  >
    <summary>A figure was misread</summary>
    <form v-if="shown" class="form" @submit.prevent="again">
      <ChoiceField
        label="Which one"
        :options="steps.map((s) => ({ value: s.id, label: s.title }))"
        :value="which"
        @choose="chosen = $event"
      />
      <WordsField label="What was wrong with it" :value="reason" needed @typed="reason = $event" />
      <v-btn type="submit" :disabled="trim.busy || !reason.trim()" data-test="take-again">Take it again</v-btn>
      <p class="small quiet">What was read since is read again too. The misread figure stays in the log of the run.</p>
    </form>
  </details>
</template>

<style scoped>
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
}
.form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
</style>
