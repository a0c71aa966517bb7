<script setup lang="ts">
// Bringing the plant in: a list of instruments is opened, its columns matched by hand, every line tried, and then
// all of it is brought in, or nothing.
import { KINDS } from '@calm-loop/core/kinds'
import { wrongColumns } from '@calm-loop/core/intake'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import PickFile from '../../widgets/PickFile.vue'
import WordsField from '../../widgets/WordsField.vue'
import IntakeColumns from './IntakeColumns.vue'
import IntakeRefused from './IntakeRefused.vue'
import { useIntake } from './useIntake.ts'

const session = useSession()
const router = useRouter()
const intake = useIntake()
const { busy, says, name, sheets, sheet, mapping, look, tried, share, asBefore, refused, good } = intake
const wrong = computed(() => wrongColumns(mapping.value?.columns ?? []))
/** Words of the list for kinds; one without words where no column says the kind. */
const words = computed(() => {
  const { columns = [], kinds = {} } = mapping.value ?? {}
  return columns.some((c) => c.to === 'kind') ? Object.keys(kinds).filter(Boolean) : ['']
})
const kinds = KINDS.map((k) => ({ value: k.id, label: k.name }))
const settleKind = (word: string, kind: string) => intake.change({ kinds: { ...mapping.value?.kinds, [word]: kind } })
const withoutRefused = ref(false)
// Wanted of this list as it was tried, and of no other.
watch(tried, () => (withoutRefused.value = false))
const may = computed(() => good.value > 0 && (!refused.value.length || withoutRefused.value))
const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`
async function bringIn(): Promise<void> {
  if (await intake.bringIn()) await router.push('/many')
}
const header = (text: string) => {
  const line = Number(text)
  if (Number.isInteger(line) && line >= 1) void intake.change({ header: line - 1 })
}
</script>

<template>
  <div class="place-head">
    <div>
      <h1>Bring the plant in</h1>
      <p class="lead">A list of instruments, as XLSX or CSV: matched, tried, and then all of it or nothing.</p>
    </div>
  </div>
  <p v-if="!session.has('technician')" class="quiet">A technician brings loops in.</p>
  <template v-else>
    <p v-if="session.session?.demo && !mapping" class="quiet small">
      A made-up list of 300 lines, with the usual sins, to try it with:
      <a class="link" href="/examples/instruments.xlsx" download>XLSX</a>,
      <a class="link" href="/examples/instruments.csv" download>CSV</a>.
    </p>
    <PickFile label="Choose a list" accept=".xlsx,.xlsm,.csv,.tsv,.txt" @picked="intake.open" />
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <div v-if="busy" class="busy">
      <v-progress-linear :model-value="100 * share" :indeterminate="!share" :aria-label="`Reading ${name}`" />
      <v-btn variant="text" @click="intake.cancel">End it</v-btn>
    </div>
    <template v-if="mapping && look">
      <section aria-labelledby="intake-lines">
        <h2 id="intake-lines">Its lines</h2>
        <p v-if="asBefore" class="quiet small">Matched as the last list with these heads was.</p>
        <div class="settings">
          <ChoiceField
            v-if="sheets.length > 1"
            label="Sheet"
            :options="
              sheets.map((s, i) => ({ value: String(i), label: `${s.name}, ${count(s.lines, 'line', 'lines')}` }))
            "
            :value="String(sheet)"
            @choose="intake.pickSheet(Number($event))"
          />
          <WordsField label="Heads stand in line" :value="String(mapping.header + 1)" @typed="header" />
          <ChoiceField
            label="Heads take"
            :options="[
              { value: '1', label: 'one line' },
              { value: '2', label: 'two lines' },
            ]"
            :value="String(mapping.headerLines)"
            @choose="intake.change({ headerLines: Number($event) })"
          />
          <ChoiceField
            label="Decimal mark"
            :options="[
              { value: '.', label: 'point' },
              { value: ',', label: 'comma' },
            ]"
            :value="mapping.decimalMark"
            @choose="intake.change({ decimalMark: $event as '.' | ',' })"
          />
        </div>
      </section>
      <IntakeColumns :mapping="mapping" :look="look" @column="intake.changeColumn" />
      <section aria-labelledby="intake-kinds">
        <h2 id="intake-kinds">Its kinds</h2>
        <p class="quiet small">What the list calls them, and what they are here. What is not settled is refused.</p>
        <div class="kinds">
          <ChoiceField
            v-for="word in words"
            :key="word"
            :label="word || 'Every line is'"
            :options="kinds"
            :value="mapping.kinds[word] ?? ''"
            needed
            @choose="settleKind(word, $event)"
          />
        </div>
      </section>
      <section aria-labelledby="intake-try">
        <h2 id="intake-try">Try it</h2>
        <p v-for="w in wrong" :key="w" class="caution">{{ w }}</p>
        <v-btn
          color="primary"
          :variant="tried ? 'outlined' : 'flat'"
          :disabled="busy || wrong.length > 0"
          data-test="try-list"
          @click="intake.tryOut"
          >Try every line</v-btn
        >
        <template v-if="tried">
          <p role="status" data-test="tried">
            {{ count(good, 'loop', 'loops') }} can be brought in; {{ count(refused.length, 'line is', 'lines are') }}
            refused. Nothing is stored yet.
          </p>
          <IntakeRefused :refused="refused" :notes="tried.notes" :name="name" />
          <v-checkbox
            v-if="refused.length"
            v-model="withoutRefused"
            label="Bring the others in without the refused lines"
            hide-details
          />
          <v-btn color="primary" variant="flat" :disabled="busy || !may" data-test="bring-in" @click="bringIn">
            Bring {{ count(good, 'loop', 'loops') }} in
          </v-btn>
          <p v-if="refused.length && !withoutRefused" class="quiet small">
            All or nothing: put the list right and choose it again, or leave the refused lines out.
          </p>
        </template>
      </section>
    </template>
  </template>
</template>

<style scoped>
.busy {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 44px;
}
section {
  margin-top: 24px;
}
.settings,
.kinds {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 0 32px;
}
</style>
