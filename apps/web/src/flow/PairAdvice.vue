<script setup lang="ts">
// Which pair suits this pipe, and how it should be mounted, with the reasons; whether the two serial numbers are one
// pair.
import { advice, clampOnOf } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const session = useSession()
const r = computed(() => sure(folder.reader))
const given = computed(() => preferences.speak(() => advice(clampOnOf(r.value), r.value)))
const best = computed(() => given.value?.pairs.filter((p) => !p.against.length).slice(0, 3) ?? [])
const chosen = computed(() => r.value.text('transducer'))
const traverses = computed(() => r.value.text('traverses'))
const use = (key: string, typed: string) => folder.set(key, { typed })
</script>

<template>
  <section class="advice" aria-label="Recommended pair and mounting">
    <p v-if="!given" class="look">Enter diameter and wall, and the suitable pairs stand here.</p>
    <template v-else>
      <p v-if="!best.length" class="bad">
        No pair of the table suits this pipe: ask the maker, and enter the pair’s own figures.
      </p>
      <ul v-else>
        <li v-for="(p, i) in best" :key="p.transducer.id">
          <b>{{ i === 0 ? 'Best: ' : 'Also: ' }}{{ p.transducer.name }}</b>
          <span class="quiet"> {{ p.reasons.join('; ') }}.</span>
          <span v-if="chosen === p.transducer.id" class="ok"> chosen</span>
          <v-btn v-else-if="session.has('technician')" variant="text" @click="use('transducer', p.transducer.id)"
            >Take it</v-btn
          >
        </li>
        <li>
          <b>{{ given.mounting.traverses }} {{ given.mounting.traverses === 1 ? 'traverse' : 'traverses' }}</b>
          <span class="quiet"> {{ given.mounting.reasons.join('; ') }}.</span>
          <span v-if="traverses === String(given.mounting.traverses)" class="ok"> chosen</span>
          <v-btn
            v-else-if="session.has('technician')"
            variant="text"
            @click="use('traverses', String(given.mounting.traverses))"
            >Take it</v-btn
          >
        </li>
        <li v-for="(p, i) in given.serials" :key="`pair ${i}`" data-test="matched">
          <b :class="p.matched ? 'ok' : 'bad'">{{ p.matched ? 'One matched pair' : 'Not one pair' }}</b>
          <span class="quiet">
            {{ p.a }} and {{ p.b }} {{ p.matched ? 'belong together.' : 'do not belong together.' }}</span
          >
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
}
li {
  border-top: 1px solid var(--hairline);
  padding: 4px 0;
  min-height: 44px;
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 0 8px;
}
.ok {
  color: var(--action);
  font-weight: 650;
}
</style>
