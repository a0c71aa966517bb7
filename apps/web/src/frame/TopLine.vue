<script setup lang="ts">
// The line above every place: find a tag, what is saved, and the person.
import type { LoopRow } from '@calm-loop/contract'
import { mdiAccountOutline, mdiMagnify } from '@mdi/js'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/client.ts'
import { useFolder } from '../stores/folder.ts'
import { useOutbox } from '../stores/outbox.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { clock } from '../widgets/dates.ts'

const emit = defineEmits<{ keys: [] }>()
const router = useRouter()
const session = useSession()
const preferences = usePreferences()
const outbox = useOutbox()
const folder = useFolder()

const found = ref<LoopRow[]>([])
const chosen = ref<string | null>(null)
const search = useDebounceFn(async (q: string) => {
  found.value = (await call('loops', { query: { q, limit: 12 } }).catch(() => ({ loops: [] }))).loops
}, 120)
function go(id: string | null): void {
  if (!id) return
  chosen.value = null
  ;(document.activeElement as HTMLElement | null)?.blur()
  void router.push(`/loops/${id}`)
}
const coverage = computed(() => {
  if (outbox.offline || folder.status === 'offline')
    return {
      words: `out of coverage; ${outbox.waiting.length || 'your'} ${outbox.waiting.length === 1 ? 'entry waits' : 'entries wait'} here`,
      tone: 'look',
    }
  if (outbox.waiting.length) return { words: `saving ${outbox.waiting.length}`, tone: 'second' }
  if (folder.status === 'saving' || folder.status === 'typing') return { words: 'saving', tone: 'second' }
  if (folder.status === 'refused') return { words: 'not saved', tone: 'stop' }
  return { words: folder.view && folder.savedAt ? `saved ${clock(folder.savedAt)}` : 'all saved', tone: 'second' }
})
async function leave(): Promise<void> {
  await session.signOut()
  await router.push('/sign-in')
}
</script>

<template>
  <header class="top">
    <div class="finder" data-finder>
      <v-autocomplete
        v-model="chosen"
        :items="found"
        item-value="id"
        item-title="tag"
        no-filter
        aria-label="Find a tag"
        placeholder="find a tag   /"
        :prepend-inner-icon="mdiMagnify"
        menu-icon=""
        :no-data-text="'no loop found'"
        @update:search="search"
        @update:model-value="go"
      >
        <template #item="{ props: item, item: loop }">
          <v-list-item
            v-bind="item"
            :title="(loop as unknown as { raw?: LoopRow }).raw?.tag ?? (loop as unknown as LoopRow).tag"
            :subtitle="(loop as unknown as { raw?: LoopRow }).raw?.service ?? (loop as unknown as LoopRow).service"
          />
        </template>
      </v-autocomplete>
    </div>
    <span
      class="coverage"
      role="status"
      data-test="coverage"
      :style="{ color: `rgb(var(--v-theme-${coverage.tone}))` }"
      >{{ coverage.words }}</span
    >
    <v-menu :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" variant="text" :prepend-icon="mdiAccountOutline">{{ session.person?.name }}</v-btn>
      </template>
      <v-list min-width="260" role="menu" aria-label="Person">
        <v-list-item
          role="menuitem"
          :title="`Theme: ${preferences.theme === 'light' ? 'daylight' : 'control room'}`"
          @click="preferences.theme = preferences.theme === 'light' ? 'dark' : 'light'"
        />
        <v-list-item
          role="menuitem"
          :title="`Decimal mark: ${preferences.decimalMark === '.' ? 'point, 3.2' : 'comma, 3,2'}`"
          @click="preferences.decimalMark = preferences.decimalMark === '.' ? ',' : '.'"
        />
        <v-list-item role="menuitem" title="Keys   ?" @click="emit('keys')" />
        <v-list-item role="menuitem" title="Sign out" @click="leave" />
      </v-list>
    </v-menu>
  </header>
</template>

<style scoped>
.top {
  position: sticky;
  top: 0;
  z-index: 5;
  height: 56px;
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 24px;
  background: var(--ground);
  border-bottom: 1px solid var(--hairline);
}
.finder {
  flex: 0 1 340px;
}
.coverage {
  margin-left: auto;
  font-size: 14px;
}
@media (max-width: 1000px) {
  .top {
    padding: 0 16px;
  }
}
</style>
