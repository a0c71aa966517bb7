<script setup lang="ts">
// The verifications of a loop, newest first: what each came to, drawn line by line; its two signatures; its paper.
import { standOfRun, verificationsOf, type Verification } from '@calm-loop/contract/judging'
import { entriesNow } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { sure } from '@calm-loop/core/sure'
import { computed, ref } from 'vue'
import { addressOf } from '../../api/client.ts'
import OffBand from '../../flow/OffBand.vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { dayWords } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import SignVerification from './SignVerification.vue'

const folder = useFolder()
const preferences = usePreferences()
const found = computed<Verification[]>(() => {
  const { view, kind, practising } = folder
  if (!view || kind?.family !== 'current') return []
  const studyOf = (version: (typeof view.versions)[number] | undefined) =>
    (version && folder.studyOfCheck({ versionId: version.id })) ?? study(kind, version ? entriesNow(kind, version) : {})
  return (
    verificationsOf(view, studyOf, practising)
      // A first health check, kept as the reference, is held against nothing.
      .filter((v) => v.finished && v.judged)
      .reverse()
  )
})
const all = ref(false)
const shown = computed(() => (all.value ? found.value : found.value.slice(0, 1)))
const verdict = ({ judged }: Verification) =>
  judged?.pass === undefined
    ? 'Verification not judged'
    : judged.pass
      ? 'Verified: inside its limits'
      : 'Not verified: outside its limits'
const most = ({ judged }: Verification) =>
  Math.max(...sure(judged).lines.map((l) => Math.max(2 * l.limit, Math.abs(l.off ?? 0))))
const paper = ({ run }: Verification) => addressOf('runCertificate', { loopId: sure(folder.view).loop.id, runId: run })
const figure = (v: number, unit: string, decimals: number, sign = false) =>
  preferences.quantity(v, unit, { decimals, sign })
</script>

<template>
  <section v-if="found.length" class="verifications" aria-label="Verifications">
    <article v-for="v in shown" :key="v.run" :data-verification="v.run">
      <div class="head">
        <h2 :class="v.judged?.pass ? 'pass' : 'fail'" data-test="verification-verdict">{{ verdict(v) }}</h2>
        <span class="quiet"
          >{{ v.title }}, {{ dayWords(v.from) }}, {{ v.by.join(', ')
          }}<template v-if="!folder.practising">, {{ v.number }}</template></span
        >
      </div>
      <p v-if="standOfRun(v) === 'broken'" class="bad" role="alert">
        <GradeMark grade="stop" /> Seal broken: what was signed is not what stands here. It is no certificate.
      </p>
      <p v-else-if="standOfRun(v) === 'elsewhere'" class="look">
        <GradeMark grade="look" /> Made elsewhere, and kept as it came.
      </p>
      <dl v-if="v.judged">
        <div v-for="line in v.judged.lines" :key="line.name">
          <dt>
            {{ line.name }}<span class="small quiet at">{{ line.at }}</span>
          </dt>
          <dd class="figures">
            {{ line.read === undefined ? 'not read' : figure(line.read, line.unit, line.decimals) }}
            <span class="quiet small nowrap">for {{ figure(line.expected, line.unit, line.decimals) }}</span>
          </dd>
          <dd><OffBand :off="line.off" :limit="line.limit" :most="most(v)" /></dd>
          <dd class="figures off" :class="{ bad: line.inside === false }">
            {{ line.off === undefined ? '' : figure(line.off, line.offUnit, 2, true) }}
          </dd>
        </div>
      </dl>
      <p v-if="v.judged" class="quiet small">{{ v.judged.rule }} {{ v.judged.notChecked }}</p>
      <SignVerification v-if="!folder.practising" :of="v" />
      <v-btn :href="paper(v)" target="_blank" data-test="verification-paper">{{
        folder.practising ? 'Practice sheet (PDF)' : 'Certificate of verification (PDF)'
      }}</v-btn>
    </article>
    <v-btn v-if="found.length > 1" variant="text" @click="all = !all">{{
      all ? 'Only the newest' : `Earlier verifications: ${found.length - 1}`
    }}</v-btn>
  </section>
</template>

<style scoped>
.verifications {
  border-bottom: 1px solid var(--hairline);
  padding-bottom: 16px;
  margin-bottom: 20px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 16px;
}
.look {
  color: var(--look);
}
dl {
  margin: 0 0 8px;
}
dl div {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.1fr) 120px 90px;
  gap: 4px 16px;
  align-items: center;
  min-height: 40px;
  border-bottom: 1px solid var(--hairline);
}
dd {
  margin: 0;
}
.at {
  display: block;
}
dd,
.nowrap {
  white-space: nowrap;
}
.nowrap {
  display: inline-block;
}
.off {
  text-align: right;
}
@media (max-width: 560px) {
  dl div {
    grid-template-columns: minmax(0, 1fr) auto;
    padding: 6px 0;
  }
  dt,
  dt + dd {
    grid-column: 1 / -1;
  }
}
</style>
