<script setup lang="ts">
// A shift in words: what stands open and how it was left first, then jobs, kit, and what was done, by area.
import type { Shift, ShiftOpen } from '@calm-loop/contract/shift'
import { countedWords } from '@calm-loop/core/words'
import { computed } from 'vue'
import { dayWords, moment } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'

const props = defineProps<{
  shift: Shift
  /** Only of this area, only of this person; of all where empty. */
  area: string
  person: string
}>()
const fits = (area: string, person: string) =>
  (!props.area || area === props.area) && (!props.person || person === props.person)
const open = computed(() => props.shift.open.filter((o) => fits(o.loop.area, o.by.name)))
const done = computed(() =>
  props.shift.done
    .filter((d) => fits(d.loop?.area ?? '', d.by.name))
    .sort((a, b) => (a.loop?.area ?? '~').localeCompare(b.loop?.area ?? '~') || a.first.localeCompare(b.first)),
)
const heads = (i: number) => done.value[i - 1]?.loop?.area !== done.value[i]?.loop?.area || i === 0
const kit = computed(() => props.shift.kit.filter((k) => !props.person || k.holder.name === props.person))
const STAGE: Record<ShiftOpen['sort'], string> = { check: 'check', work: 'trim', practice: '', survey: 'point' }
const at = (o: ShiftOpen) => `/loops/${o.loop.id}${STAGE[o.sort] ? `/${STAGE[o.sort]}` : ''}`
</script>

<template>
  <section aria-labelledby="shift-open">
    <h2 id="shift-open">Open, and how it was left</h2>
    <p v-if="!open.length" class="quiet">Nothing stands open.</p>
    <ul class="lines">
      <li v-for="(o, i) in open" :key="i" :data-open="o.loop.tag">
        <router-link :to="at(o)" class="tag figures">{{ o.loop.tag }}</router-link>
        <div>
          <p>
            {{ o.words }} <span class="small quiet">{{ o.loop.area }}; {{ o.by.name }}, {{ moment(o.since) }}</span>
          </p>
          <p v-for="l in o.left" :key="l" class="left"><GradeMark grade="stop" wordless /> {{ l }}</p>
        </div>
      </li>
    </ul>
  </section>
  <section v-if="shift.jobs.length && !person" aria-labelledby="shift-jobs">
    <h2 id="shift-jobs">Asked for</h2>
    <ul class="lines">
      <li v-for="j in shift.jobs" :key="j.id">
        <router-link :to="`/loops/${j.loopId}`" class="tag figures">{{ j.tag }}</router-link>
        <p>
          {{ j.what }}{{ j.by ? `, by ${dayWords(j.by)}` : '' }}
          <span class="small quiet">{{ [j.why, `from ${j.from}`].filter(Boolean).join('; ') }}</span>
        </p>
      </li>
    </ul>
  </section>
  <section v-if="kit.length" aria-labelledby="shift-kit">
    <h2 id="shift-kit">Who has which piece of the kit</h2>
    <ul class="lines">
      <li v-for="k in kit" :key="k.piece">
        <b>{{ k.piece }}</b>
        <span>{{ k.holder.name }}{{ k.place ? `, ${k.place}` : '' }}, since {{ moment(k.since) }}</span>
      </li>
    </ul>
  </section>
  <section aria-labelledby="shift-done">
    <h2 id="shift-done">Done</h2>
    <p v-if="!done.length" class="quiet">Nothing is on record of this time.</p>
    <ul class="lines">
      <template v-for="(d, i) in done" :key="`${d.loop?.id} ${d.by.id}`">
        <li v-if="heads(i)" class="area">
          <h3>{{ d.loop?.area ?? 'Kit' }}</h3>
        </li>
        <li :data-done="d.loop?.tag">
          <router-link v-if="d.loop" :to="`/loops/${d.loop.id}`" class="tag figures">{{ d.loop.tag }}</router-link>
          <span v-else />
          <p>
            {{ d.by.name }} {{ countedWords(d.what) }} <span class="small quiet">{{ moment(d.first) }}</span>
          </p>
        </li>
      </template>
    </ul>
    <p v-if="shift.more" class="small quiet">And {{ shift.more }} lines more, which stand in the audit.</p>
  </section>
</template>

<style scoped>
section {
  margin-top: 28px;
}
.lines {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
.lines > li {
  display: grid;
  grid-template-columns: minmax(112px, auto) minmax(0, 1fr);
  gap: 0 16px;
  align-items: center;
  min-height: 44px;
  border-top: 1px solid var(--hairline);
  padding: 4px 0;
}
.lines > .area {
  display: block;
  border-top: 0;
  padding-top: 16px;
}
.tag {
  font-weight: 700;
  min-height: 44px;
  display: inline-flex;
  align-items: center;
}
.left {
  color: var(--stop);
}
</style>
