<script setup lang="ts">
// What this device has kept: loops that open without the server, how full it is, and whether the browser may clear it.
import { onMounted, ref } from 'vue'
import { KEPT_ms, keptLoops, takeAlong, type KeptLoop } from '../stores/kept.ts'
import { useSession } from '../stores/session.ts'
import { ageWords } from '../widgets/ago.ts'

const session = useSession()
const loops = ref<KeptLoop[]>([])
const room = ref('')
const lasting = ref<boolean>()
const person = () => session.person?.id ?? ''
const DAYS = KEPT_ms / 86_400_000
async function look(): Promise<void> {
  loops.value = await keptLoops(person()).catch(() => [])
  lasting.value = await navigator.storage?.persisted?.().catch(() => undefined)
  const told = await navigator.storage?.estimate?.().catch(() => undefined)
  const MB = (bytes: number) => Math.round(bytes / 1e6)
  room.value = told?.quota ? `${MB(told.usage ?? 0)} of ${MB(told.quota)} MB used.` : ''
}
onMounted(look)
async function change(loop: KeptLoop): Promise<void> {
  await takeAlong(person(), loop.id, !loop.along)
  await look()
}
const age = (at: number) => ageWords(at, Date.now())
</script>

<template>
  <section aria-label="Opens without the server" data-test="kept-here">
    <h3>Opens without the server</h3>
    <p class="quiet small">
      Loops that were opened in the last {{ DAYS }} days, and those taken along. {{ room }}
      {{ lasting === false ? 'The browser may clear them when it runs short of room: what waits to be sent too.' : '' }}
    </p>
    <p v-if="!loops.length">None yet: open a loop while the server is there.</p>
    <ul class="list">
      <li v-for="l in loops" :key="l.id">
        <router-link :to="`/loops/${l.id}`"
          ><b>{{ l.row.tag }}</b></router-link
        >
        {{ l.row.service }}
        <span class="quiet">as of {{ age(l.at) === 'just now' ? 'just now' : `${age(l.at)} ago` }}</span>
        <v-btn variant="text" :aria-pressed="l.along" @click="change(l)">{{
          l.along ? 'Put back' : 'Take along'
        }}</v-btn>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-bottom: 1px solid var(--hairline);
  display: flex;
  align-items: center;
  gap: 12px;
  flex-wrap: wrap;
}
li .v-btn {
  margin-left: auto;
}
</style>
