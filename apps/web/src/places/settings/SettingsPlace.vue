<script setup lang="ts">
// All that a site settles, on one page: units, rules, limits, whose papers, the walking order, and who may change what.
import { onMounted } from 'vue'
import { useSite } from '../../stores/site.ts'
import PriorsPanel from '../../wiring/PriorsPanel.vue'
import DutyTable from './DutyTable.vue'
import SiteLimits from './SiteLimits.vue'
import SitePractice from './SitePractice.vue'
import SiteRules from './SiteRules.vue'
import SiteUnits from './SiteUnits.vue'
import WalkingOrder from './WalkingOrder.vue'
import WeekTerms from './WeekTerms.vue'

const site = useSite()
onMounted(() => Promise.all([site.loadPriors(), site.loadLimits()]))
</script>

<template>
  <div class="place-head"><h1>Settings of the site</h1></div>
  <p class="lead">
    What holds for everyone here. Each change is in the audit trail with who made it; how one likes the page oneself,
    day or control room, and a decimal mark of one’s own, stands behind one’s own name above.
  </p>
  <div class="parts">
    <WalkingOrder />
    <WeekTerms />
    <SiteRules />
    <SitePractice />
    <section aria-labelledby="limits-head">
      <h2 id="limits-head">Limits for trims</h2>
      <SiteLimits />
    </section>
    <SiteUnits />
    <section aria-labelledby="priors-head">
      <h2 id="priors-head">Faults of wiring</h2>
      <PriorsPanel />
    </section>
    <DutyTable />
  </div>
</template>

<style scoped>
.lead {
  max-width: 70ch;
  color: var(--second);
}
.parts {
  max-width: 980px;
}
.parts > :deep(*) {
  margin-top: 32px;
  padding-top: 16px;
  border-top: 1px solid var(--hairline);
}
</style>
