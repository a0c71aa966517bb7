<script setup lang="ts">
// The keys of the page.
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'
import type { StageId } from '@calm-loop/core/kinds'
import { useOpenLoop } from '../stores/open-loop.ts'

const StageHelp = defineAsyncComponent(() => import('../places/folder/StageHelp.vue'))
const open = defineModel<boolean>({ required: true })
const route = useRoute()
const opened = useOpenLoop()
const everywhere = [
  ['/', 'find a tag'],
  ['?', 'this list'],
  ['G', 'words of the field'],
  ['Q', 'scan a label'],
  ['Tab, Shift Tab', 'next and previous entry'],
  ['Esc', 'close what is open'],
]
const folder = [
  ['↑ ↓ on a knot', 'move its value by 1 % of its scale'],
  ['Esc on a knot', 'drop what was typed there'],
  ['↑ ↓ on the run sheet', 'another stage'],
]
const roundKeys = [
  ['R', 'walking order again'],
  ['T', 'take the round along, to open without the server'],
  ['J', 'make a job'],
  ['H', 'hand the shift over'],
  ['W', 'the weeks ahead'],
  ['↑ ↓ on a grip', 'move a stop'],
]
const check = [
  ['Enter', 'take the reading: what is typed, else what is live'],
  ['Backspace on an empty entry', 'back to the point before'],
  ['B', 'bring the stand-in to this point (while no figure is being typed)'],
]
const states = [
  ['1, 0', 'the next witness is lit or true, dark or false (outside an entry)'],
  ['Enter', 'take the reading: what was looked at, else what is live'],
  ['B', 'bring the stand-in’s target up, or take it away (while no figure is being typed)'],
]
const discrete = computed(() => opened.family === 'switch')
/** Of the stage that is open: its help stands with its keys. */
const stage = computed(() => (route.params['loopId'] ? String(route.params['stage'] || 'identify') : ''))
const groups = computed(() => [
  { name: 'Everywhere', keys: everywhere },
  ...(route.path === '/round' ? [{ name: 'Round', keys: roundKeys }] : []),
  ...(route.params['loopId'] ? [{ name: 'In a loop’s folder', keys: discrete.value ? folder.slice(2) : folder }] : []),
  ...(route.params['stage'] === 'check' ? [{ name: 'Taking readings', keys: discrete.value ? states : check }] : []),
])
</script>

<template>
  <v-dialog v-model="open" aria-label="Keys of this page">
    <v-card class="pa-6">
      <h2>Keys of this page</h2>
      <StageHelp v-if="stage" :family="discrete ? 'switch' : 'current'" :stage="stage as StageId" />
      <section v-for="group in groups" :key="group.name" class="mt-4">
        <h3 class="quiet">{{ group.name }}</h3>
        <v-table>
          <tbody>
            <tr v-for="[key, does] in group.keys" :key="key">
              <td class="figures key">{{ key }}</td>
              <td>{{ does }}</td>
            </tr>
          </tbody>
        </v-table>
      </section>
      <v-btn class="mt-4" autofocus @click="open = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.key {
  width: 45%;
}
</style>
