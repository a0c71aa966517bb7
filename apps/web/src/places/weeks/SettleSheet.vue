<script setup lang="ts">
// On which day a loop is checked, and by whom: settled by a person, or left to the plan.
import type { Visit } from '@calm-loop/core/round'
import { computed, ref, watch } from 'vue'
import { call, problemWords, type ApiProblem } from '../../api/client.ts'
import { dayWords, isDay, today } from '../../widgets/dates.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{
  visit: Visit | undefined
  people: readonly { readonly id: string; readonly name: string }[]
  /** As it was settled. */
  pin: { readonly day: string | null; readonly personId: string | null } | undefined
}>()
const emit = defineEmits<{ settled: []; left: [] }>()
const day = ref('')
const who = ref('')
const says = ref('')
const busy = ref(false)
watch(
  () => props.visit,
  (v) => {
    day.value = props.pin?.day ?? v?.day ?? ''
    who.value = props.pin?.personId ?? ''
    says.value = ''
  },
  { immediate: true },
)
const items = computed(() => [
  { value: '', label: 'whom the plan proposes' },
  ...props.people.map((p) => ({ value: p.id, label: p.name })),
])
const warns = computed(() => {
  const v = props.visit
  if (!v || !isDay(day.value)) return ''
  if (day.value < today()) return 'This day has passed.'
  return day.value > v.due ? `It is due ${dayWords(v.due)}: this day is late.` : ''
})
async function settle(body: { day: string | null; personId: string | null }): Promise<void> {
  const { visit } = props
  if (!visit) return
  busy.value = true
  says.value = ''
  try {
    await call('pinVisit', { params: { loopId: visit.loop.id }, body })
    emit('settled')
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  } finally {
    busy.value = false
  }
}
const save = () => settle({ day: isDay(day.value) ? day.value : null, personId: who.value || null })
</script>

<template>
  <v-dialog :model-value="!!visit" aria-label="Settle a visit" @update:model-value="$event || emit('left')">
    <v-card v-if="visit" class="pa-6">
      <form @submit.prevent="save">
        <h2>
          <span class="figures">{{ visit.loop.tag }}</span> in {{ visit.loop.area }}
        </h2>
        <p class="quiet">Due {{ dayWords(visit.due) }}; the plan puts it on {{ dayWords(visit.day) }}.</p>
        <WordsField label="On which day" type="date" :value="day" @typed="day = $event" />
        <ChoiceField label="By whom" :options="items" :value="who" @choose="who = $event" />
        <p v-if="warns" class="look">{{ warns }}</p>
        <p v-if="says" class="bad" role="alert">{{ says }}</p>
        <div class="do">
          <v-btn type="submit" color="primary" variant="flat" :disabled="busy">Settle it</v-btn>
          <v-btn v-if="pin" variant="text" :disabled="busy" @click="settle({ day: null, personId: null })"
            >Leave it to the plan</v-btn
          >
          <v-btn variant="text" @click="emit('left')">Close</v-btn>
          <router-link class="link to" :to="`/loops/${visit.loop.id}`">Open the loop</router-link>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.look {
  color: var(--look);
}
.to {
  display: inline-flex;
  align-items: center;
}
</style>
