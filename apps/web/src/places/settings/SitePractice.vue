<script setup lang="ts">
// What this site settles where schools of practice differ, how often each kind is checked, and the decimal mark.
import { DECIMAL_MARKS, type SitePractice } from '@calm-loop/contract'
import { intervalsOf, KINDS, PRACTICES, type Practice } from '@calm-loop/core/kinds'
import { computed, onMounted, ref, watch } from 'vue'
import { usePreferences } from '../../stores/preferences.ts'
import { useSession } from '../../stores/session.ts'
import { useSite } from '../../stores/site.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { useDoing } from '../../widgets/doing.ts'

const site = useSite()
const session = useSession()
const preferences = usePreferences()
const { busy, says, run } = useDoing()
const may = computed(() => session.hasDuty('limits'))
/** Nothing is set by who has not seen what stands. */
const seen = ref(false)
onMounted(async () => {
  await site.loadPractice()
  seen.value = true
})
/** What was chosen is not overwritten by an answer that comes late. */
const touched = ref(false)
const wanted = ref<SitePractice>(site.practice)
watch(
  () => site.practice,
  (now) => touched.value || (wanted.value = now),
)
const OPEN = 'each loop by itself'
const optionsOf = (p: Pick<Practice, 'options' | 'usual'>) =>
  p.usual === undefined ? [{ value: '', label: OPEN }, ...p.options] : p.options
const words = ({ options, usual }: Pick<Practice, 'options' | 'usual'>, value: string | undefined) =>
  options.find((o) => o.value === (value ?? usual))?.label ?? OPEN
const whyOf = (p: Practice) => (p.kinds.length ? `${p.why} Asked of: ${p.kinds.join(', ')}.` : p.why)
const MARK_HELP = 'On papers, and on the page of who has chosen none. Files for other programs keep the point.'
/** What is the usual anyway, or left to each loop, is not settled. */
function put(part: 'schools' | 'intervals', key: string, { value, usual }: { value: string; usual?: string }): void {
  touched.value = true
  const { [key]: _, ...others } = wanted.value[part]
  wanted.value = { ...wanted.value, [part]: value === '' || value === usual ? others : { ...others, [key]: value } }
}
const MARKS = { '.': 'point, 3.2', ',': 'comma, 3,2' }
function mark(decimalMark: SitePractice['decimalMark']): void {
  touched.value = true
  wanted.value = { ...wanted.value, decimalMark }
}
const usualOf = (p: Pick<Practice, 'usual'>) => (p.usual === undefined ? {} : { usual: p.usual })
const intervals = KINDS.map((kind) => ({ kind, ...intervalsOf(kind) }))
const own = computed(() => intervals.filter((i) => wanted.value.intervals[i.kind.id] !== undefined))
/** What stands for every kind, or by kind where kinds differ; each interval as its field has it. */
const intervalWords = computed(() => {
  const usual = [...new Set(intervals.map((i) => words(i, undefined)))].join(' or ')
  const settled = own.value.map((i) => `${i.kind.name}: ${words(i, wanted.value.intervals[i.kind.id])}`)
  return settled.length ? `${settled.join('; ')}. The others: ${usual}.` : `New loops of every kind: ${usual}.`
})
const save = () =>
  run(async () => {
    const before = site.practice
    try {
      await site.savePractice(wanted.value)
    } finally {
      // Kept, or another was faster: what stands is shown. Where it could not be kept, what was chosen stays.
      if (site.practice !== before) {
        touched.value = false
        wanted.value = site.practice
        preferences.siteMark = site.practice.decimalMark
      }
    }
  })
</script>

<template>
  <section aria-labelledby="practice-head">
    <h2 id="practice-head">Schools of practice</h2>
    <p class="quiet">
      Where sites differ, this one settles it: new loops begin so. A loop that is entered keeps its own, and its page
      says where that is another.
    </p>
    <div v-if="may" class="schools">
      <ChoiceField
        v-for="p in PRACTICES"
        :key="p.key"
        :data-practice="p.key"
        :label="p.label"
        :options="optionsOf(p)"
        :value="wanted.schools[p.key] ?? p.usual ?? ''"
        :help="whyOf(p)"
        @choose="put('schools', p.key, { value: $event, ...usualOf(p) })"
      />
      <ChoiceField
        data-practice="decimal-mark"
        label="Decimal mark"
        :options="DECIMAL_MARKS.map((value) => ({ value, label: MARKS[value] }))"
        :value="wanted.decimalMark"
        :help="MARK_HELP"
        @choose="mark($event as SitePractice['decimalMark'])"
      />
    </div>
    <dl v-else class="schools">
      <div v-for="p in PRACTICES" :key="p.key" :data-practice="p.key">
        <dt>{{ p.label }}</dt>
        <dd>{{ words(p, site.practice.schools[p.key]) }}</dd>
      </div>
      <div data-practice="decimal-mark">
        <dt>Decimal mark</dt>
        <dd>{{ MARKS[site.practice.decimalMark] }}</dd>
      </div>
    </dl>
    <h3>Checked every</h3>
    <p class="quiet">
      {{ intervalWords }}
      A loop’s own interval stands under Identify.
    </p>
    <details v-if="may">
      <summary>Settle it by kind</summary>
      <div class="edit-grid" role="group" aria-label="Settle it by kind">
        <ChoiceField
          v-for="i in intervals"
          :key="i.kind.id"
          :data-kind="i.kind.id"
          :label="i.kind.name"
          :options="i.options"
          :value="wanted.intervals[i.kind.id] ?? i.usual ?? ''"
          @choose="put('intervals', i.kind.id, { value: $event, ...usualOf(i) })"
        />
      </div>
    </details>
    <div v-if="may" class="do">
      <v-btn :loading="busy" :disabled="!seen || !touched" data-test="save-practice" @click="save"
        >Set for the site</v-btn
      >
    </div>
    <p v-else class="small quiet">A {{ session.session?.duties.limits }} may change that.</p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </section>
</template>

<style scoped>
.schools {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 400px), 1fr));
  gap: 8px 40px;
}
dl.schools > div {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 0 24px;
  min-height: 44px;
  border-bottom: 1px solid var(--hairline);
}
dt {
  color: var(--second);
}
dd {
  margin: 0;
}
summary {
  min-height: 44px;
  cursor: pointer;
  color: var(--action);
}
</style>
