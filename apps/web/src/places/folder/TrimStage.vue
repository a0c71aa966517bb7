<script setup lang="ts">
// Trim: what was found and what it means; the guided work; as left and what changed; the bench.
import { Refusal } from '@calm-loop/core/refusal'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import BeginProcedure from '../../trim/BeginProcedure.vue'
import DeviceRange from '../../trim/DeviceRange.vue'
import DiagnosisPanel from '../../trim/DiagnosisPanel.vue'
import PointTable from '../../trim/PointTable.vue'
import RunProcedure from '../../trim/RunProcedure.vue'
import SetAside from '../../trim/SetAside.vue'
import SideBySide from '../../trim/SideBySide.vue'
import SiteLimits from '../settings/SiteLimits.vue'
import TakePoints from '../../trim/TakePoints.vue'
import TrimBench from '../../trim/TrimBench.vue'
import { useBench } from '../../trim/useBench.ts'
import { useFolder } from '../../stores/folder.ts'
import { useOutbox } from '../../stores/outbox.ts'
import { useSession } from '../../stores/session.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'

const { trim, live } = useBench()
const session = useSession()
const route = useRoute()
const folder = useFolder()
const outbox = useOutbox()
const works = computed(() => [
  { id: 'found', name: 'As found and diagnosis' },
  { id: 'guided', name: 'Guided work' },
  { id: 'left', name: 'As left and changes' },
  { id: 'bench', name: folder.answers === 'device' ? 'Device' : 'Bench' },
])
/** A run that is over stays in sight until other work is chosen. */
const run = computed(() => trim.open ?? (route.query['procedure'] ? undefined : trim.last))
</script>

<template>
  <section aria-label="Trim">
    <h2 class="visually-hidden">Trim</h2>
    <SetAside v-if="outbox.refused.length" />
    <WorkTabs v-slot="{ work }" :works="works" label="Trim work">
      <template v-if="work === 'found'">
        <p v-if="trim.chain instanceof Refusal" class="look">{{ trim.chain.message }}</p>
        <DiagnosisPanel v-if="trim.diagnosis && !(trim.diagnosis instanceof Refusal)" :diagnosis="trim.diagnosis" />
        <p v-else-if="trim.diagnosis" class="look" role="status" data-test="no-diagnosis">
          {{ trim.diagnosis.message }}
        </p>
        <h3 class="head">As found</h3>
        <PointTable :points="trim.found" phase="as-found" pinnable />
        <p v-if="trim.found.length && !trim.foundStands" class="small quiet">
          Closed by what was left since: the next point begins a new as found.
        </p>
        <TakePoints v-if="session.has('technician')" phase="as-found" class="mt-4" />
        <DeviceRange />
        <SiteLimits />
      </template>
      <template v-else-if="work === 'guided'">
        <RunProcedure v-if="run" :key="run.id" :run="run" />
        <template v-if="!trim.open">
          <h3 v-if="run" class="head">Begin other work</h3>
          <BeginProcedure />
        </template>
      </template>
      <SideBySide v-else-if="work === 'left'" />
      <TrimBench v-else />
    </WorkTabs>
    <p v-if="live.problem && trim.known" class="bad small" role="alert">{{ live.problem }}</p>
    <p class="caution small">
      <b>Caution.</b> A trim moves the signal: operations told, loop in manual, trips by-passed with permission. Site
      procedure, local codes and licensed practice come first.
    </p>
  </section>
</template>

<style scoped>
.head {
  margin: 20px 0 8px;
  font-size: 18px;
}
.look {
  color: var(--look);
}
</style>
