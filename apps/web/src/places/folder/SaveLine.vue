<script setup lang="ts">
// Saved as it is typed; recorded as a finished version with a reason when the technician says so. The versions so far
// stand below.
import { wiringChanges } from '@calm-loop/core/wiring'
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import { moment } from '../../widgets/dates.ts'
import WordsField from '../../widgets/WordsField.vue'

const folder = useFolder()
const session = useSession()
const reason = ref('')
const versions = computed(() => [...(folder.view?.versions ?? [])].reverse())
const open = computed(() => folder.base && !folder.base.sealedAt)
const label = (key: string) => folder.kind?.fields.find((f) => f.key === key)?.label ?? key

/** What a version changed against the one before. */
function changes(number: number): string {
  const all = folder.view?.versions ?? []
  const now = all.find((v) => v.number === number)?.entries ?? {}
  const before = all.find((v) => v.number === number - 1)?.entries ?? {}
  const keys = [...new Set([...Object.keys(now), ...Object.keys(before)])].filter(
    (k) => now[k]?.typed !== before[k]?.typed,
  )
  if (number === 1) return `${keys.length} entries`
  return (
    keys
      .map((k) =>
        k === 'wiring'
          ? `Wiring: ${wiringChanges(before[k]?.typed ?? '', now[k]?.typed ?? '')}`
          : `${label(k)}: ${before[k]?.typed || 'nothing'} → ${now[k]?.typed || 'nothing'}`,
      )
      .join('; ') || 'no entry changed'
  )
}
async function record(): Promise<void> {
  if (await folder.save(reason.value.trim())) reason.value = ''
}
</script>

<template>
  <div class="save">
    <div v-if="session.has('technician') && (open || folder.status === 'typing')" class="record">
      <WordsField
        label="Reason for the change"
        :value="reason"
        help="Saved as you type. Recording closes this version and lets any two be compared."
        @typed="reason = $event"
        @enter="reason.trim() && record()"
      />
      <v-btn :disabled="!reason.trim() || folder.status === 'saving'" @click="record"
        >Record version {{ folder.base?.number ?? 1 }}</v-btn
      >
    </div>
    <details v-if="versions.length">
      <summary>{{ versions.length }} {{ versions.length === 1 ? 'version' : 'versions' }} of these entries</summary>
      <ol class="versions">
        <li v-for="v in versions" :key="v.id">
          <b>Version {{ v.number }}</b
          >, {{ v.author.name }}, {{ moment(v.savedAt) }}:
          {{ v.sealedAt ? v.reason || 'no reason given' : 'still open' }}
          <div class="small quiet">{{ changes(v.number) }}</div>
        </li>
      </ol>
    </details>
  </div>
</template>

<style scoped>
.save {
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
  margin-top: 8px;
}
.record {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 16px;
  align-items: center;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  color: var(--second);
}
.versions {
  list-style: none;
  padding: 0;
}
.versions li {
  padding: 8px 0;
  border-top: 1px solid var(--hairline);
}
@media (max-width: 560px) {
  .record {
    grid-template-columns: 1fr;
  }
}
</style>
