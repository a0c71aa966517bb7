<script setup lang="ts">
// The line above every place: find a tag, what is saved, and the person.
import type { LoopRow } from '@calm-loop/contract'
import { mdiAccountOutline, mdiMagnify, mdiQrcodeScan } from '@mdi/js'
import { useDebounceFn } from '@vueuse/core'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/client.ts'
import { useOpenLoop } from '../stores/open-loop.ts'
import { useOutbox } from '../stores/outbox.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useCoverage } from '../stores/coverage.ts'
import { useShell } from '../stores/shell.ts'
import { clock } from '../widgets/dates.ts'
import { savingWords } from './waiting.ts'

// Changing one’s password needs the server anyway.
const WaitingPanel = defineAsyncComponent(() => import('./WaitingPanel.vue'))
const OwnAccount = defineAsyncComponent(() => import('./OwnAccount.vue'))
const emit = defineEmits<{ keys: []; words: [] }>()
const router = useRouter()
const session = useSession()
const preferences = usePreferences()
const outbox = useOutbox()
const kept = useCoverage()
const shell = useShell()
const loop = useOpenLoop()

const showWaiting = ref(false)
const showAccount = ref(false)
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
  const waits =
    `${outbox.waiting.length || 'your'} ` + `${outbox.waiting.length === 1 ? 'entry waits' : 'entries wait'} here`
  if (outbox.full) return { words: 'this device is full', tone: 'stop' }
  if (outbox.refused.length) return { words: `${outbox.refused.length} could not be sent`, tone: 'stop' }
  if (session.ended) return { words: `signed out; ${waits}`, tone: 'look' }
  if (session.databaseAway) return { words: `the server’s database is away; ${waits}`, tone: 'look' }
  if (outbox.offline || loop.status === 'offline') return { words: `out of coverage; ${waits}`, tone: 'look' }
  if (kept.away) {
    const asOf = kept.keptFrom === undefined ? '' : `; as of ${clock(kept.keptFrom)}`
    return { words: `out of coverage${asOf}`, tone: 'look' }
  }
  // Nothing goes on by itself: a person is asked.
  if (outbox.toSeal.length) return { words: 'signed here: your password seals it', tone: 'look' }
  if (outbox.waiting.length) return { words: savingWords(outbox.waiting.length, outbox.most), tone: 'second' }
  if (loop.status === 'saving' || loop.status === 'typing') return { words: 'saving', tone: 'second' }
  if (loop.status === 'refused') return { words: 'not saved', tone: 'stop' }
  return { words: loop.family && loop.savedAt ? `saved ${clock(loop.savedAt)}` : 'all saved', tone: 'second' }
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
        <template #item="{ props: item, item: row }">
          <v-list-item
            v-bind="item"
            :title="(row as unknown as { raw?: LoopRow }).raw?.tag ?? (row as unknown as LoopRow).tag"
            :subtitle="(row as unknown as { raw?: LoopRow }).raw?.service ?? (row as unknown as LoopRow).service"
          />
        </template>
      </v-autocomplete>
    </div>
    <v-btn to="/scan" variant="text" icon aria-label="Scan a label" title="Scan a label   Q">
      <v-icon :icon="mdiQrcodeScan" />
    </v-btn>
    <button
      v-if="outbox.others.length"
      type="button"
      class="link others"
      data-test="others-wait"
      @click="showWaiting = true"
    >
      entries of others wait here
    </button>
    <button
      v-if="shell.newer || shell.behind"
      type="button"
      class="link others"
      data-test="newer"
      @click="shell.take()"
    >
      {{ shell.newer ? 'a newer version is here: take it' : 'this page is of an older version: load it anew' }}
    </button>
    <span class="coverage" role="status">
      <button
        type="button"
        class="link"
        data-test="coverage"
        :style="{ color: `rgb(var(--v-theme-${coverage.tone}))` }"
        @click="showWaiting = true"
      >
        {{ coverage.words }}
      </button>
    </span>
    <WaitingPanel v-if="showWaiting" v-model="showWaiting" />
    <OwnAccount v-if="showAccount" v-model="showAccount" />
    <v-menu :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" variant="text" :prepend-icon="mdiAccountOutline"
          ><span class="name">{{ session.person?.name }}</span></v-btn
        >
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
        <v-list-item role="menuitem" title="Password and sessions" @click="showAccount = true" />
        <v-list-item role="menuitem" title="Words of the field   G" @click="emit('words')" />
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
}
.coverage .link,
.others {
  min-height: 44px;
  background: none;
  border: 0;
  font: inherit;
  font-size: 14px;
  cursor: pointer;
  text-align: right;
}
.coverage .link:not(:hover, :focus-visible) {
  text-decoration: none;
}
.others {
  color: var(--look);
  text-decoration: underline;
}
@media (max-width: 1000px) {
  .top {
    padding: 0 16px;
  }
}
/* The name is read out, and not shown: the tag that one types needs the place. */
@media (max-width: 560px) {
  .top {
    gap: 4px;
  }
  .finder {
    flex: 1 1 150px;
  }
  .name {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
}
</style>
