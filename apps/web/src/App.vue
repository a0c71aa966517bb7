<script setup lang="ts">
// The frame: rail at the left (a bar at the bottom on a tablet), finder and person above, the place in the middle.
import { onKeyStroke } from '@vueuse/core'
import { defineAsyncComponent, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useTheme } from 'vuetify'
import KeysSheet from './frame/KeysSheet.vue'
import PlaceRail from './frame/PlaceRail.vue'
import SessionEnded from './frame/SessionEnded.vue'
import TopLine from './frame/TopLine.vue'
import { useDrafts } from './stores/drafts.ts'
import { usePreferences } from './stores/preferences.ts'
import { useSession } from './stores/session.ts'
import { useShell } from './stores/shell.ts'

const GlossarySheet = defineAsyncComponent(() => import('./frame/GlossarySheet.vue'))
const router = useRouter()
const session = useSession()
const preferences = usePreferences()
const theme = useTheme()
watch(
  () => preferences.theme,
  (name) => theme.change(name),
  { immediate: true },
)

/** What can wait until the first screen stands. */
const LATER_ms = 3000
let later: ReturnType<typeof setTimeout>
onMounted(() => {
  void useShell().start()
  useDrafts().start()
  // Photographs that wait on this device go out wherever one is.
  later = setTimeout(
    () => void import('./stores/waiting-pictures.ts').then(({ useWaitingPictures }) => useWaitingPictures()),
    LATER_ms,
  )
})
onBeforeUnmount(() => clearTimeout(later))

const keysOpen = ref(false)
const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.matches('input, textarea, select') || target.isContentEditable)
onKeyStroke('?', (event) => {
  if (typing(event.target)) return
  keysOpen.value = true
})
onKeyStroke(['q', 'Q'], (event) => {
  if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey || !session.person) return
  event.preventDefault()
  void router.push('/scan')
})
const wordsOpen = ref(false)
onKeyStroke(['g', 'G'], (event) => {
  if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey || !session.person) return
  event.preventDefault()
  wordsOpen.value = true
})
onKeyStroke('/', (event) => {
  if (typing(event.target)) return
  event.preventDefault()
  document.querySelector<HTMLInputElement>('[data-finder] input')?.focus()
})
</script>

<template>
  <v-app>
    <a href="#place" class="skip">Skip to the page</a>
    <div class="frame" :class="{ bare: !session.person }">
      <PlaceRail v-if="session.person" />
      <div class="body">
        <TopLine v-if="session.person" @keys="keysOpen = true" @words="wordsOpen = true" />
        <SessionEnded v-if="session.person" />
        <main id="place" class="place" tabindex="-1">
          <router-view />
        </main>
      </div>
    </div>
    <KeysSheet v-model="keysOpen" />
    <GlossarySheet v-if="wordsOpen" v-model="wordsOpen" />
  </v-app>
</template>

<style>
.skip {
  position: absolute;
  left: -9999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 20;
  background: var(--sheet);
  padding: 12px;
}
.frame {
  display: grid;
  grid-template-columns: 72px minmax(0, 1fr);
  min-height: 100vh;
  width: 100%;
}
.frame.bare {
  grid-template-columns: minmax(0, 1fr);
}
.place {
  padding: 12px 24px 48px;
  outline: none !important;
}
@media (max-width: 1000px) {
  .frame {
    grid-template-columns: minmax(0, 1fr);
    padding-bottom: 72px;
  }
  .frame.bare {
    padding-bottom: 0;
  }
  .place {
    padding: 8px 16px 32px;
  }
}
</style>
