<script setup lang="ts">
// Cancelling a run, and afterwards: in what state plant and device are, and what must still be undone, in order.
import { toUndo, worldWords, type RunState } from '@calm-loop/core/procedure'
import { computed, ref, watch } from 'vue'
import { useTrim } from '../stores/trim.ts'
import WordsField from '../widgets/WordsField.vue'
import ManifoldDrawing from './ManifoldDrawing.vue'
import { inSentence } from '@calm-loop/core/words'

const props = defineProps<{ run: string; state: RunState }>()
const trim = useTrim()
const reason = ref('')
const words = ref('')
const asking = ref(false)
const world = computed(() => worldWords(props.state))
const undo = computed(() => toUndo(props.state))
const first = computed(() => (props.state.status === 'cancelled' ? undo.value[0] : undefined))
async function cancel(): Promise<void> {
  if (await trim.act(props.run, { do: 'cancel', reason: reason.value.trim() })) asking.value = false
}
async function undone(): Promise<void> {
  if (first.value) await trim.act(props.run, { do: 'undone', undo: first.value.id, words: words.value.trim() })
}
watch(
  () => first.value?.id,
  () => (words.value = ''),
)
const step = computed(() => props.state.steps.find((s) => s.id === props.state.cancelled?.step)?.title ?? '')
</script>

<template>
  <section class="cancel" aria-label="Cancel and put back">
    <template v-if="state.status === 'running'">
      <v-btn v-if="!asking" variant="text" data-test="cancel" @click="asking = true">Cancel this procedure</v-btn>
      <form v-else class="ask" @submit.prevent="cancel">
        <h3>If you cancel now</h3>
        <div class="world">
          <ul>
            <li v-for="w in world.plant" :key="w">{{ w }}</li>
          </ul>
          <ul>
            <li v-for="w in world.device" :key="w">{{ w }}</li>
          </ul>
        </div>
        <p v-if="undo.length">
          Still to be undone, in this order: {{ undo.map((u) => inSentence(u.title)).join('; ') }}.
        </p>
        <p v-else>Nothing has to be undone.</p>
        <WordsField label="Why" :value="reason" needed @typed="reason = $event" />
        <div class="do">
          <v-btn
            color="primary"
            variant="flat"
            type="submit"
            :disabled="!reason.trim() || trim.busy"
            data-test="cancel-now"
            >Cancel the procedure</v-btn
          >
          <v-btn variant="text" @click="asking = false">Go on with it</v-btn>
        </div>
      </form>
    </template>
    <template v-else-if="state.status === 'cancelled' && first">
      <h3>Cancelled at “{{ step }}”: {{ state.cancelled!.reason }}</h3>
      <div class="world">
        <ul>
          <li v-for="w in world.plant" :key="w">{{ w }}</li>
        </ul>
        <ul>
          <li v-for="w in world.device" :key="w">{{ w }}</li>
        </ul>
      </div>
      <ol class="undo">
        <li v-for="(u, i) in undo" :key="u.id" :class="{ now: i === 0 }" :data-undo="u.id">
          <p class="title">{{ u.title }}</p>
          <p class="small quiet">{{ u.says }}</p>
          <template v-if="i === 0">
            <ManifoldDrawing
              v-if="u.kind === 'valve'"
              :type="state.terms.manifold"
              :state="state.world.manifold"
              :wanted="u.move"
              :busy="trim.busy"
              @move="trim.act(run, { do: 'valve', step: u.id, move: $event })"
            />
            <v-btn
              v-else-if="u.kind === 'read'"
              color="primary"
              variant="flat"
              :disabled="trim.busy"
              data-test="undo-now"
              @click="trim.act(run, { do: 'read', step: u.id })"
              >Read the device back</v-btn
            >
            <template v-else-if="u.kind === 'command'">
              <v-btn
                color="primary"
                variant="flat"
                :disabled="trim.busy"
                data-test="undo-now"
                @click="trim.act(run, { do: 'send', step: u.id })"
                >{{ u.id === 'release' ? 'Release it' : 'Store what was written' }}</v-btn
              >
            </template>
            <form v-if="u.kind !== 'valve'" class="by-hand" @submit.prevent="undone">
              <WordsField
                :label="u.kind === 'confirm' ? 'What was done, who was told' : 'Or done by hand: what was done'"
                :value="words"
                @typed="words = $event"
              />
              <v-btn
                type="submit"
                :variant="u.kind === 'confirm' ? 'flat' : 'outlined'"
                :color="u.kind === 'confirm' ? 'primary' : undefined"
                :disabled="!words.trim() || trim.busy"
                data-test="undone"
                >Confirm: {{ inSentence(u.title) }}</v-btn
              >
            </form>
          </template>
        </li>
      </ol>
      <p v-if="state.note" class="look" role="status">{{ state.note }}</p>
      <p v-if="trim.problem" class="bad" role="alert" data-test="refused">{{ trim.problem }}</p>
    </template>
  </section>
</template>

<style scoped>
.world {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 0 24px;
}
.world ul {
  margin: 8px 0;
  padding-left: 18px;
}
.ask {
  border-left: 4px solid var(--look);
  padding-left: 12px;
}
.ask > :deep(.entry) {
  max-width: 420px;
}
.undo {
  padding-left: 24px;
}
.undo li {
  border-top: 1px solid var(--hairline);
  padding: 8px 0;
}
.undo li:not(.now) {
  color: var(--second);
}
.title {
  font-weight: 600;
  margin: 0;
}
.by-hand {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  margin-top: 8px;
}
.by-hand > :deep(.entry) {
  width: min(360px, 100%);
}
.look {
  color: var(--look);
}
</style>
