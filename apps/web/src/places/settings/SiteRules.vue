<script setup lang="ts">
// By which rule the site judges, how much better than the tolerance its kit must be, how long an interval may be, and
// whose papers these are.
import { SiteJudging, type SiteHead } from '@calm-loop/contract'
import { ruleWords } from '@calm-loop/contract/judging'
import { CONFORMITY_RULES } from '@calm-loop/core/check'
import { parseNumber } from '@calm-loop/core/quantity'
import { sure } from '@calm-loop/core/sure'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useSite } from '../../stores/site.ts'
import { useDoing } from '../../widgets/doing.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import WordsField from '../../widgets/WordsField.vue'
import SiteLogo from './SiteLogo.vue'

const site = useSite()
const session = useSession()
const { busy, says, run } = useDoing()
onMounted(() => Promise.all([site.loadJudging(), site.loadHead()]))

const FIGURES = [
  ['leastRatio', 'Least ratio of tolerance to uncertainty', 'Kit below it is said to be too coarse. 4 is usual.'],
  ['minInterval_days', 'Shortest interval, days', ''],
  ['maxInterval_days', 'Longest interval, days', ''],
] as const
/** What was typed is not overwritten by an answer that comes late. */
const touched = reactive({ rules: false, head: false })
const rule = ref<SiteJudging['rule']>('simple')
const typed = reactive({ leastRatio: '', minInterval_days: '', maxInterval_days: '' })
watch(
  () => site.judging,
  (j) => {
    if (touched.rules) return
    rule.value = j.rule
    for (const [key] of FIGURES) typed[key] = `${j[key]}`
  },
  { immediate: true },
)
const wanted = computed(() => {
  const figures = FIGURES.map(([key]) => {
    const read = parseNumber(typed[key])
    return [key, 'value' in read ? read.value : NaN]
  })
  return SiteJudging.safeParse({ rule: rule.value, ...Object.fromEntries(figures) })
})
const wrong = computed(() => {
  const issue = wanted.value.success ? undefined : wanted.value.error.issues[0]
  if (!issue) return ''
  const field = FIGURES.find(([key]) => key === issue.path[0])
  return field ? `${field[1]}: not possible as typed.` : 'The longest interval is not the shorter one.'
})
const RULES = { simple: 'simple acceptance', guarded: 'guarded acceptance' }

const head = ref<SiteHead>(site.head)
watch(
  () => site.head,
  (h) => touched.head || (head.value = h),
)
const put = (key: (typeof FIGURES)[number][0], text: string) => {
  typed[key] = text
  touched.rules = true
}
const putHead = (key: keyof SiteHead, text: string) => {
  head.value = { ...head.value, [key]: text }
  touched.head = true
}
async function saveRules(): Promise<void> {
  if (await run(() => site.saveJudging(sure(wanted.value.data)))) touched.rules = false
}
async function saveHead(): Promise<void> {
  if (await run(() => site.saveHead(head.value))) touched.head = false
}
const LINES = [
  ['name', 'Site', 'Printed at the head of every certificate and report.'],
  ['address', 'Address, or part of the plant', ''],
  ['procedure', 'Procedure by which checks are done', 'Its number and edition.'],
] as const
</script>

<template>
  <section aria-label="How this site judges" class="rules">
    <h2>How this site judges</h2>
    <p class="quiet">{{ ruleWords[site.judging.rule] }}</p>
    <form v-if="session.hasDuty('limits')" class="edit-grid" @submit.prevent="saveRules">
      <ChoiceField
        label="Rule of acceptance"
        :options="CONFORMITY_RULES.map((value) => ({ value, label: RULES[value] }))"
        :value="rule"
        @choose="((rule = $event as SiteJudging['rule']), (touched.rules = true))"
      />
      <WordsField
        v-for="[key, label, help] in FIGURES"
        :key="key"
        :label="label"
        :help="help"
        :value="typed[key]"
        @typed="put(key, $event)"
      />
      <div class="do">
        <v-btn type="submit" :disabled="!wanted.success" :loading="busy" data-test="save-rules">Set for the site</v-btn>
        <span v-if="wrong" class="bad">{{ wrong }}</span>
      </div>
    </form>
    <p v-else class="small quiet">
      Kit proves a tolerance that is at least {{ site.judging.leastRatio }} times its uncertainty; intervals run from
      {{ site.judging.minInterval_days }} to {{ site.judging.maxInterval_days }} days. A
      {{ session.session?.duties.limits }} may change that.
    </p>
    <h2>Head of the papers</h2>
    <form v-if="session.has('administrator')" class="edit-grid" @submit.prevent="saveHead">
      <WordsField
        v-for="[key, label, help] in LINES"
        :key="key"
        :label="label"
        :help="help"
        :value="head[key]"
        @typed="putHead(key, $event)"
      />
      <div class="do"><v-btn type="submit" :loading="busy" data-test="save-head">Set for the site</v-btn></div>
    </form>
    <p v-else class="quiet">
      {{ [site.head.name, site.head.address, site.head.procedure].filter(Boolean).join(' · ') || 'Not entered yet.' }}
      <span class="small">An administrator may change it.</span>
    </p>
    <SiteLogo />
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </section>
</template>
