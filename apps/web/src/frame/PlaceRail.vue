<script setup lang="ts">
// The places, as a rail or a bottom bar.
import {
  mdiAccountMultipleOutline,
  mdiHelpCircleOutline,
  mdiLanConnect,
  mdiLightSwitch,
  mdiLinkLock,
  mdiRoutes,
  mdiTableLarge,
  mdiToolboxOutline,
  mdiDotsHorizontal,
  mdiTransitConnectionHorizontal,
  mdiTuneVariant,
} from '@mdi/js'
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useSession } from '../stores/session.ts'

const session = useSession()
const places = computed(() => [
  { to: '/round', name: 'Round', icon: mdiRoutes },
  { to: '/loops', name: 'Loops', icon: mdiTransitConnectionHorizontal },
  { to: '/watch', name: 'Watch', icon: mdiLightSwitch },
  { to: '/link', name: 'Link', icon: mdiLanConnect },
  { to: '/kit', name: 'Kit', icon: mdiToolboxOutline },
  { to: '/tables', name: 'Tables', icon: mdiTableLarge },
  { to: '/people', name: 'People', icon: mdiAccountMultipleOutline },
  ...(session.has('reviewer') ? [{ to: '/audit', name: 'Audit', icon: mdiLinkLock }] : []),
  { to: '/settings', name: 'Settings', icon: mdiTuneVariant },
  { to: '/guide', name: 'Guide', icon: mdiHelpCircleOutline },
])
/** As many as a thumb finds in the bar of a telephone; the others stand behind one more. */
const AT_HAND = 5
const isNarrow = useMediaQuery('(max-width: 560px)')
const shown = computed(() => (isNarrow.value ? places.value.slice(0, AT_HAND) : places.value))
const others = computed(() => places.value.slice(shown.value.length))
const route = useRoute()
/** Pages that one reaches from the round. */
const OF_ROUND = new Set(['/weeks', '/shift'])
const amongOthers = computed(() => others.value.some((p) => route.path.startsWith(p.to)))
</script>

<template>
  <nav class="rail" aria-label="Places">
    <router-link to="/round" class="brand" aria-label="Calm Loop">
      <svg viewBox="0 0 40 40" width="36" height="36" aria-hidden="true">
        <path
          d="M4 27C12 27 12 13 20 13s8 10 16 10"
          fill="none"
          stroke="var(--action)"
          stroke-width="2.4"
          stroke-linecap="round"
        />
        <circle cx="20" cy="13" r="4.6" fill="var(--ground)" stroke="var(--action)" stroke-width="2.2" />
        <circle cx="34" cy="23" r="3.6" fill="var(--signal)" />
      </svg>
    </router-link>
    <router-link
      v-for="place in shown"
      :key="place.to"
      :to="place.to"
      class="stop"
      :class="{ here: place.to === '/round' && OF_ROUND.has(route.path) }"
      active-class="here"
    >
      <v-icon :icon="place.icon" size="24" />
      <span>{{ place.name }}</span>
    </router-link>
    <v-menu v-if="others.length">
      <template #activator="{ props: menu }">
        <button type="button" class="stop more" :class="{ here: amongOthers }" v-bind="menu">
          <v-icon :icon="mdiDotsHorizontal" size="24" />
          <span>More</span>
        </button>
      </template>
      <v-list>
        <v-list-item
          v-for="place in others"
          :key="place.to"
          :to="place.to"
          :title="place.name"
          :prepend-icon="place.icon"
          min-height="48"
        />
      </v-list>
    </v-menu>
  </nav>
</template>

<style scoped>
.rail {
  border-right: 1px solid var(--hairline);
  display: flex;
  flex-direction: column;
  align-items: stretch;
  position: sticky;
  top: 0;
  height: 100vh;
}
.brand {
  display: grid;
  place-items: center;
  height: 56px;
}
.stop {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 2px;
  padding: 10px 0;
  min-height: 60px;
  font-size: 14px;
  color: var(--second);
  text-decoration: none;
  border-left: 3px solid transparent;
}
.more {
  font-family: inherit;
  background: none;
  border: 0;
}
.here {
  color: var(--ink);
  font-weight: 650;
  border-left-color: var(--action);
}
@media (max-width: 1000px) {
  .rail {
    position: fixed;
    z-index: 10;
    inset: auto 0 0 0;
    height: 68px;
    flex-direction: row;
    border-right: 0;
    border-top: 1px solid var(--hairline);
    background: var(--ground);
  }
  .brand {
    display: none;
  }
  .stop {
    flex: 1;
    border-left: 0;
    border-top: 3px solid transparent;
  }
  .here {
    border-top-color: var(--action);
  }
}
</style>
