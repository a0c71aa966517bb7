<script setup lang="ts">
// What was done at this loop, in its order, along a line: the newest visit, or an earlier one that was chosen; what it
// changed, what is still open, who was told; and its report.
import { openOf, toldOf, verdictOfCheck, visitsOf } from '@calm-loop/contract/judging'
import { entriesNow } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { sure } from '@calm-loop/core/sure'
import { computed, ref } from 'vue'
import { addressOf } from '../../api/client.ts'
import { useFolder } from '../../stores/folder.ts'
import { clock, dayWords, moment } from '../../widgets/dates.ts'

const folder = useFolder()
const visits = computed(() => {
  const { view, kind } = folder
  if (!view || !kind) return []
  const look = {
    studyOf: (version: (typeof view.versions)[number] | undefined) =>
      (version && folder.studyOfCheck({ versionId: version.id })) ??
      study(kind, version ? entriesNow(kind, version) : {}),
    verdictOf: (check: (typeof view.checks)[number]) => {
      const known = folder.studyOfCheck(check)
      return known ? verdictOfCheck(known, check) : null
    },
  }
  return visitsOf(view, look, folder.practising).reverse()
})
const chosen = ref<string>()
const visit = computed(() => visits.value.find((v) => v.from === chosen.value) ?? visits.value[0])
const choices = computed(() =>
  visits.value.map((v, i) => ({ value: v.from, title: `${dayWords(v.from)}${i ? '' : ', the newest'}` })),
)
const open = computed(() => (visit.value ? openOf(visit.value) : []))
const told = computed(() => (visit.value ? toldOf(visit.value) : []))
const report = computed(() => {
  const at = visit.value?.from
  const base = addressOf('visitPdf', { loopId: sure(folder.view).loop.id })
  return at ? `${base}?at=${at}` : base
})
const unfolded = ref<string>()
</script>

<template>
  <section v-if="visit" class="visit" aria-label="Visit" data-test="visit">
    <div class="head">
      <h2>Visit of {{ dayWords(visit.from) }}</h2>
      <span class="quiet">{{ visit.by.join(', ') }}</span>
      <div v-if="choices.length > 1" class="entry other">
        <v-select
          aria-label="Which visit"
          :items="choices"
          :model-value="visit.from"
          @update:model-value="chosen = $event"
        />
      </div>
    </div>
    <ol>
      <li v-for="part in visit.parts" :key="part.sort + part.id" :data-part="part.sort">
        <svg aria-hidden="true" class="line">
          <line x1="9" x2="9" y1="0" y2="100%" />
          <circle cx="9" cy="22" r="6" :class="part.open.length ? 'ring' : 'dot'" />
        </svg>
        <div>
          <button
            type="button"
            class="part"
            :aria-expanded="unfolded === part.sort + part.id"
            @click="unfolded = unfolded === part.sort + part.id ? undefined : part.sort + part.id"
          >
            <span class="figures small">{{ clock(part.from) }}</span> <b>{{ part.title }}</b>
            <span class="came">{{ part.came }}</span>
            <span v-if="part.open.length" class="look small">{{ part.open.join('; ') }}</span>
          </button>
          <dl v-if="unfolded === part.sort + part.id" class="lines">
            <div>
              <dt>When, by</dt>
              <dd>{{ moment(part.from) }}, {{ part.by.join(', ') }}</dd>
            </div>
            <div v-for="([name, words], i) in part.lines" :key="i">
              <dt>{{ name }}</dt>
              <dd class="figures">{{ words }}</dd>
            </div>
          </dl>
        </div>
      </li>
    </ol>
    <p data-test="visit-open">
      <b>Still open:</b> <span :class="{ look: open.length }">{{ open.join('. ') || 'nothing' }}.</span>
      <template v-if="told.length">{{ ' ' }}<b>Told:</b> {{ told.join(', ') }}.</template>
    </p>
    <v-btn :href="report" target="_blank" data-test="visit-report">{{
      folder.practising ? 'Practice report (PDF)' : 'Report of the visit (PDF)'
    }}</v-btn>
  </section>
</template>

<style scoped>
.visit {
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
.other {
  flex: 0 1 220px;
  margin-left: auto;
}
ol {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  position: relative;
  padding-left: 28px;
}
.line {
  position: absolute;
  left: 0;
  top: 0;
  width: 18px;
  height: 100%;
}
.line line {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.ring {
  fill: var(--sheet);
  stroke: var(--look);
  stroke-width: 2;
}
.dot {
  fill: var(--ink);
}
.part {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 12px;
  width: 100%;
  min-height: 44px;
  padding: 10px 0;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.look {
  color: var(--look);
}
.lines {
  margin: 0 0 12px;
}
.lines div {
  display: grid;
  grid-template-columns: minmax(120px, 260px) minmax(0, 1fr);
  gap: 4px 16px;
  padding: 4px 0;
  border-bottom: 1px solid var(--hairline);
}
dt {
  color: var(--second);
}
dd {
  margin: 0;
}
@media (max-width: 560px) {
  .lines div {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
