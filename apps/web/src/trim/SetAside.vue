<script setup lang="ts">
// Gates that were passed here out of coverage and do not stand: what must be put right, before the run goes on.
import { inWorld } from '@calm-loop/contract'
import { computed, reactive, ref, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useOutbox } from '../stores/outbox.ts'
import { useWork } from '../stores/work.ts'
import GradeMark from '../widgets/GradeMark.vue'
import WordsField from '../widgets/WordsField.vue'
import { runsAside, type RunAside } from './run-aside.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const outbox = useOutbox()
const work = useWork()
const loopId = computed(() => sure(folder.view).loop.id)
/** Of the record, also while the bench is connected: out of coverage nothing was practised. */
const log = computed(() => inWorld(folder.view?.workLog ?? [], false))
const asides = computed(() => runsAside(outbox.refused, loopId.value, log.value))
// What others did meanwhile is what this is held against.
watch(
  () => outbox.refused.length,
  () => void folder.refresh().catch(() => undefined),
  { immediate: true },
)
const words = reactive<Record<string, string>>({})
const done = ref<ReadonlySet<string>>(new Set())
const keyOf = (aside: RunAside, i: number) => `${aside.run} ${i}`
function tick(key: string, is: boolean | null): void {
  done.value = new Set([...[...done.value].filter((k) => k !== key), ...(is ? [key] : [])])
}
const lacks = (aside: RunAside) =>
  !words[aside.run]?.trim() || aside.putRight.some((_, i) => !done.value.has(keyOf(aside, i)))

/** First on record, then put away: in between it would be neither. */
async function putAway(aside: RunAside): Promise<void> {
  const saved = await work.add({
    what: 'run-aside',
    run: aside.run,
    steps: aside.steps.map((s) => s.slice(0, 300)),
    putRight: aside.putRight.map((a) => a.title),
    words: sure(words[aside.run]).trim(),
  })
  if (saved) for (const w of aside.writes) await outbox.dismiss(w.id)
}
</script>

<template>
  <section v-for="aside in asides" :key="aside.run" class="aside" aria-label="Done here, and not on record">
    <h3><GradeMark grade="stop" /> {{ aside.name }}: what you did here does not stand</h3>
    <p class="bad" role="status">{{ aside.why }}</p>
    <div class="both">
      <div>
        <h4>Done here, and not on record</h4>
        <ol>
          <li v-for="(s, i) in aside.steps" :key="i">{{ s }}</li>
        </ol>
      </div>
      <div>
        <h4>To be put right, in this order</h4>
        <p v-if="!aside.putRight.length" class="look">
          What it has left cannot be told from here: look at valves, device and loop, and agree with whoever went on.
        </p>
        <ol class="right">
          <li v-for="(a, i) in aside.putRight" :key="a.id" :data-aside="a.id">
            <v-checkbox
              :model-value="done.has(keyOf(aside, i))"
              :label="a.title"
              hide-details
              @update:model-value="tick(keyOf(aside, i), $event)"
            />
            <p class="small quiet">{{ a.says }}</p>
          </li>
        </ol>
      </div>
    </div>
    <p class="caution small">
      <b>Caution.</b> Somebody may be working on this loop now. Agree with them before a valve or the device is touched;
      the procedure of the site comes first.
    </p>
    <form @submit.prevent="putAway(aside)">
      <WordsField
        label="What was put right, and with whom it was agreed"
        :value="words[aside.run] ?? ''"
        needed
        @typed="words[aside.run] = $event"
      />
      <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
      <v-btn type="submit" color="primary" variant="flat" :disabled="lacks(aside) || work.busy" data-test="put-aside"
        >Put this on record, and the steps away</v-btn
      >
    </form>
  </section>
</template>

<style scoped>
.aside {
  border-left: 4px solid var(--stop);
  padding: 4px 0 12px 16px;
  margin-bottom: 24px;
}
.both {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 0 32px;
}
h3 {
  display: flex;
  gap: 8px;
  align-items: center;
}
h4 {
  font-size: 16px;
}
.right {
  list-style: none;
  padding: 0;
}
.right p {
  margin: 0 0 4px 40px;
}
form {
  max-width: 560px;
}
</style>
