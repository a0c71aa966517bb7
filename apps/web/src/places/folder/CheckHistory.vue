<script setup lang="ts">
// Earlier checks of this loop: worst error of each, and how it stands.
import { checkWords, verdictOfCheck } from '@calm-loop/contract/judging'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { dayWords } from '../../widgets/dates.ts'
import GrowingTable from '../../widgets/GrowingTable.vue'

const COLUMNS = ['Begun', 'State', 'Largest error', 'Stands', 'By'].map((title) => ({ title }))

defineProps<{ shown: string | undefined }>()
const emit = defineEmits<{ choose: [id: string] }>()
const folder = useFolder()
const preferences = usePreferences()
const rows = computed(() =>
  (folder.view?.checks ?? []).map((check) => {
    const known = folder.studyOfCheck(check)
    const verdict = known && verdictOfCheck(known, check)
    return { check, pass: verdict?.pass, max: verdict?.errorPct ?? undefined }
  }),
)
</script>

<template>
  <section class="history">
    <h3>All checks of this loop</h3>
    <GrowingTable :columns="COLUMNS" :items="[...rows].reverse()" :key-of="(row) => row.check.id">
      <template #row="{ item: { check, pass, max }, at }">
        <tr :ref="at">
          <td>
            <button type="button" class="pick" :aria-pressed="check.id === shown" @click="emit('choose', check.id)">
              {{ dayWords(check.startedAt) }}
            </button>
          </td>
          <td>{{ check.phase === 'as-found' ? 'as found' : 'as left' }}</td>
          <td class="num">
            {{
              max === undefined
                ? pass === undefined
                  ? 'not read'
                  : pass
                    ? 'passed'
                    : 'failed'
                : `${preferences.number(max, { decimals: 3, sign: true })} %`
            }}
          </td>
          <td>
            {{ checkWords(check) }}
          </td>
          <td>{{ check.startedBy.name }}</td>
        </tr>
      </template>
    </GrowingTable>
  </section>
</template>

<style scoped>
.history {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
  margin-top: 16px;
}
.pick {
  min-height: 44px;
  background: none;
  border: 0;
  color: var(--action);
  text-decoration: underline;
  font: inherit;
  cursor: pointer;
}
.pick[aria-pressed='true'] {
  font-weight: 700;
}
</style>
