<script setup lang="ts">
// A loop's folder: its name, the thread, the run sheet, and the stage at hand with its working beside it.
import { loopStateWords } from '@calm-loop/contract'
import { RUN_SHEETS, type Family, type StageId } from '@calm-loop/core/kinds'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, watch, type Component } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { ApiProblem } from '../../api/client.ts'
import { useFolder } from '../../stores/folder.ts'
import { useSite } from '../../stores/site.ts'
import { useSwitching } from '../../stores/switching.ts'
import { useThread } from '../../stores/thread.ts'
import { useWorking } from '../../stores/working.ts'
import SwitchBand from '../../switching/SwitchBand.vue'
import ThreadBand from '../../thread/ThreadBand.vue'
import { dayWords, moment, today } from '../../widgets/dates.ts'
import WorkingDrawer from '../../widgets/WorkingDrawer.vue'
import BenchRibbon from './BenchRibbon.vue'
import ClashList from './ClashList.vue'
import FitForUse from './FitForUse.vue'
import LostLine from './LostLine.vue'
import OpenJobs from './OpenJobs.vue'
import StageHelp from './StageHelp.vue'
import RunSheet from './RunSheet.vue'
import TakeAlong from './TakeAlong.vue'
import { useRunLines } from './useRunLines.ts'

const route = useRoute()
const router = useRouter()
const folder = useFolder()
const thread = useThread()
const working = useWorking()
const switching = useSwitching()
// Where schools of practice differ, entries say what this site has settled.
void useSite().loadPractice()
const problem = ref('')

const PictureStrip = defineAsyncComponent(() => import('../../pictures/PictureStrip.vue'))
const CheckStage = defineAsyncComponent(() => import('./CheckStage.vue'))
const IdentifyStage = defineAsyncComponent(() => import('./IdentifyStage.vue'))
const PAGES: Record<Family, Partial<Record<StageId, Component>>> = {
  current: {
    identify: IdentifyStage,
    wire: defineAsyncComponent(() => import('./WireStage.vue')),
    point: defineAsyncComponent(() => import('./PointStage.vue')),
    range: defineAsyncComponent(() => import('./RangeStage.vue')),
    trim: defineAsyncComponent(() => import('./TrimStage.vue')),
    'switch-point': defineAsyncComponent(() => import('./TripStage.vue')),
    check: CheckStage,
    'hand-over': defineAsyncComponent(() => import('./HandOverStage.vue')),
  },
  switch: {
    identify: IdentifyStage,
    wire: defineAsyncComponent(() => import('./SwitchWireStage.vue')),
    'switch-point': defineAsyncComponent(() => import('./SwitchPointStage.vue')),
    check: CheckStage,
    count: defineAsyncComponent(() => import('./CountStage.vue')),
    'hand-over': defineAsyncComponent(() => import('./SwitchHandOver.vue')),
  },
}
const FIRST: Record<Family, StageId> = { current: 'point', switch: 'wire' }
const family = computed<Family>(() => folder.kind?.family ?? 'current')
const stage = computed<StageId>(
  () => RUN_SHEETS[family.value].find((s) => s.id === route.params['stage'])?.id ?? FIRST[family.value],
)
const loop = computed(() => folder.view?.loop)

watch(
  () => route.params['loopId'],
  async (id) => {
    problem.value = ''
    thread.release()
    switching.live = undefined
    working.hide()
    if (typeof id !== 'string') return
    try {
      await folder.open(id)
      document.title = `${folder.view?.loop.tag} · Calm Loop`
    } catch (error) {
      problem.value = (error as ApiProblem).message
    }
  },
  { immediate: true },
)
watch(stage, () => {
  working.hide()
  thread.pinned = undefined
})
watch(
  () => [thread.live, thread.held, thread.lastReading, thread.pinned, folder.practising] as const,
  ([live, held, reading, pinned, practising]) => {
    thread.caption =
      pinned && !held
        ? pinned.caption
        : live
          ? practising
            ? 'Simulated at the bench.'
            : 'Live, as its own device tells it.'
          : reading && !held
            ? `Read ${moment(reading.takenAt)}, ${reading.percent} % ${reading.direction}.`
            : ''
  },
  { immediate: true },
)
/** A label opens the folder at what is next: the first stage that is not done, else the last. */
const lines = useRunLines()
watch(
  () => route.params['stage'] === 'next' && folder.view?.loop.id === route.params['loopId'] && !!folder.study,
  (asked) => {
    if (!asked) return
    const next = lines.value.find((l) => l.mark !== 'done') ?? lines.value.at(-1)
    if (next) void router.replace(`/loops/${folder.view?.loop.id}/${next.id}`)
  },
  { immediate: true },
)
onBeforeUnmount(() => folder.close())
</script>

<template>
  <p v-if="problem" role="alert" class="bad mt-6">
    {{ problem }} <router-link to="/loops">Back to the loops</router-link>
  </p>
  <template v-else-if="folder.view && loop && folder.study">
    <BenchRibbon />
    <FitForUse />
    <div class="title">
      <h1>
        <span class="figures">{{ loop.tag }}</span> <span class="service">{{ loop.service }}</span>
      </h1>
      <p class="quiet state">
        {{ loopStateWords[folder.view.row.state] }}
        <template v-if="folder.view.row.nextDue">
          · {{ folder.view.row.nextDue < today() ? 'was due' : 'next due' }}
          {{ dayWords(folder.view.row.nextDue) }}</template
        >
        · <TakeAlong />
      </p>
    </div>
    <LostLine />
    <OpenJobs :loop-id="loop.id" />
    <SwitchBand v-if="family === 'switch'" />
    <ThreadBand v-else />
    <div class="below" :class="{ drawer: working.shown }">
      <RunSheet :stage="stage" />
      <div class="page">
        <p v-if="folder.news" class="news" role="status">
          {{ folder.news }} <button type="button" class="link" @click="folder.news = ''">Seen</button>
        </p>
        <ClashList v-if="folder.clashes.length" />
        <p v-if="folder.status === 'refused'" class="bad" role="alert">Not saved: {{ folder.refusal }}</p>
        <component :is="PAGES[family][stage]" :key="loop.id" />
        <StageHelp :family="family" :stage="stage" />
        <PictureStrip :loop-id="loop.id" />
      </div>
      <WorkingDrawer />
    </div>
  </template>
  <p v-else class="quiet mt-6" role="status">Opening the folder</p>
</template>

<style scoped>
.title {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 16px;
  flex-wrap: wrap;
  margin-bottom: 4px;
}
.service {
  font-weight: 400;
  font-size: 22px;
}
.state {
  margin: 0;
}
.below {
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
  gap: 32px;
  padding-top: 16px;
}
.below.drawer {
  grid-template-columns: 200px minmax(0, 1fr) 300px;
}
.drawer :deep(.entries-and-figures),
.drawer :deep(.two),
.drawer :deep(.pair) {
  grid-template-columns: minmax(0, 1fr);
}
.news {
  border-bottom: 1px solid var(--hairline);
}
@media (max-width: 1000px) {
  .below,
  .below.drawer {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
    padding-top: 0;
  }
}
</style>
