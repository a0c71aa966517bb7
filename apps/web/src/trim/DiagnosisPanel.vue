<script setup lang="ts">
// The diagnosis: the error split by stage, why in words, what to do in order, and what the loop would read after each.
import type { TrimDiagnosis } from '@calm-loop/core/trim'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useFolder } from '../stores/folder.ts'
import { useTrim } from '../stores/trim.ts'
import GradeMark from '../widgets/GradeMark.vue'
import StageErrors from './StageErrors.vue'
import { ACTION_WORDS } from './words.ts'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ diagnosis: TrimDiagnosis }>()
const trim = useTrim()
const folder = useFolder()
const router = useRouter()
const c = computed(() => sure(trim.known))
const applied = computed(() =>
  trim.good(trim.found).map((p) => (100 * (p.applied - c.value.lrv)) / (c.value.urv - c.value.lrv)),
)
const chosen = ref<number>()
const shown = computed(() => props.diagnosis.actions[chosen.value ?? 0])
const HEAD = { leave: 'Leave it alone', adjust: 'Adjust, in this order', service: 'No trim can mend this' } as const
const goTo = (procedure: string) =>
  void router.push({ path: `/loops/${sure(folder.view).loop.id}/trim`, query: { do: 'guided', procedure } })
</script>

<template>
  <section class="diagnosis" aria-label="Diagnosis" :data-verdict="diagnosis.verdict">
    <StageErrors
      :diagnosis="diagnosis"
      :tolerance-pct="trim.tolerancePct"
      :applied="applied"
      :predicted="shown?.predictedPct ?? null"
    />
    <h3>
      <GradeMark v-if="diagnosis.verdict !== 'leave'" :grade="diagnosis.verdict === 'service' ? 'stop' : 'look'" />
      {{ HEAD[diagnosis.verdict] }}
    </h3>
    <p class="reason">{{ diagnosis.reason }}</p>
    <p v-for="says in diagnosis.unsplit" :key="says" class="small look">{{ says }}</p>
    <ol v-if="diagnosis.actions.length" class="actions">
      <li v-for="(a, i) in diagnosis.actions" :key="a.action" :data-action="a.action">
        <span class="number figures" aria-hidden="true">{{ i + 1 }}</span>
        <div>
          <p class="title">{{ ACTION_WORDS[a.action].title }}</p>
          <p v-if="i > 0 || diagnosis.verdict !== 'adjust'">{{ a.why }}</p>
          <p class="small quiet">{{ ACTION_WORDS[a.action].says }}</p>
          <p class="then">
            <template v-if="a.predictedMaxPct !== null">
              Afterwards the loop would read within
              <b class="figures">± {{ a.predictedMaxPct.toFixed(2) }} %</b> of span.
            </template>
            <template v-else>What is left afterwards cannot be foretold: take as found again.</template>
          </p>
          <div class="do">
            <v-btn
              v-if="ACTION_WORDS[a.action].procedure"
              color="primary"
              :variant="i === 0 ? 'flat' : 'outlined'"
              :data-test="`begin-${a.action}`"
              @click="goTo(ACTION_WORDS[a.action].procedure!)"
              >Lead me through it</v-btn
            >
            <v-btn
              v-if="a.predictedPct && diagnosis.actions.length > 1"
              variant="text"
              :aria-pressed="(chosen ?? 0) === i"
              @click="chosen = i"
              >Draw what it would leave</v-btn
            >
          </div>
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.reason {
  max-width: 72ch;
  margin: 4px 0 8px;
}
.actions {
  list-style: none;
  padding: 0;
  margin: 0;
}
.actions li {
  display: grid;
  grid-template-columns: 40px minmax(0, 72ch);
  border-top: 1px solid var(--hairline);
  padding: 12px 0;
}
.number {
  font-size: 28px;
  line-height: 1.1;
  color: var(--second);
}
.title {
  font-weight: 650;
  margin: 0;
}
.then {
  margin-bottom: 8px;
}
h3 {
  font-size: 20px;
}
.look {
  color: var(--look);
}
</style>
