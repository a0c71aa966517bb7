<script setup lang="ts">
// What is chosen at the wiring desk, in words, and what can be done with it; from the keyboard too.
import { landConductor, takeOut } from '@calm-loop/core/wiring'
import { useEventListener } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { useAfterFrame } from '../widgets/afterFrame.ts'
import { useShown } from './shown.ts'
import { sure } from '@calm-loop/core/sure'

const desk = useDesk()
const { volts, milliamps } = useShown()
const chosenConductor = computed(() =>
  desk.chosen?.what === 'conductor' ? desk.wiring?.conductors.find((c) => c.id === sure(desk.chosen).id) : undefined,
)

/** A terminal's volts, and what they are counted from. */
function voltsAt(ref_: string): string {
  const on = desk.mains?.live.has(ref_) ? 'live' : desk.mains?.neutral.has(ref_) ? 'neutral' : ''
  if (on) return `mains, ${on}`
  const v = desk.told(ref_) ? desk.energised?.volts(ref_) : undefined
  return v === undefined ? 'volts not known' : `${volts(v)} to ${sure(desk.energised).floatsOn(ref_) ?? 'earth'}`
}
/** What can be done with what is chosen comes after the figures; it goes with what was chosen. */
const offered = useAfterFrame(() => ({
  conductor: !!chosenConductor.value,
  terminal: desk.chosen?.what === 'terminal',
}))
const said = computed(() => {
  if (desk.drawingFrom) return `From ${desk.drawingFrom}: now choose the other terminal. Esc stops.`
  const c = chosenConductor.value
  if (c) {
    const mA = desk.told(c.from) && desk.told(c.to) ? desk.energised?.milliamps(c.id) : undefined
    return [
      `${c.id}: ${c.from || 'cut back'} to ${c.to || 'cut back'}`,
      ...(c.colour ? [c.colour] : []),
      ...(mA === undefined ? [] : [`${milliamps(mA)} from the first to the second`]),
    ].join(', ')
  }
  if (desk.chosen?.what !== 'terminal') return 'Choose a terminal or a conductor, or drag from one terminal to another.'
  const { id } = desk.chosen
  const on = desk.wiring?.conductors.filter((k) => k.from === id || k.to === id) ?? []
  return `${id}: ${voltsAt(id)}, ${on.length ? `carries ${on.map((k) => k.id).join(', ')}` : 'nothing on it'}.`
})

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'Escape') {
    desk.drawingFrom = ''
    moving.value = undefined
  }
  if ((event.target as HTMLElement).closest('input, select, textarea') || !desk.mayChange) return
  if ((event.ctrlKey || event.metaKey) && event.key === 'z' && desk.undone.length) {
    event.preventDefault()
    desk.undo()
  }
  if (event.key === 'Delete' && chosenConductor.value) {
    const { id } = chosenConductor.value
    desk.change((w) => takeOut(w, id))
    desk.chosen = undefined
  }
})
/** The end of the chosen conductor that the terminal chosen next is for. */
const moving = ref<'from' | 'to'>()
watch(
  () => desk.chosen,
  (chosen, before) => {
    const end = moving.value
    moving.value = undefined
    if (!end || chosen?.what !== 'terminal' || before?.what !== 'conductor') return
    if (desk.change((w) => landConductor(w, before.id, end, chosen.id))) desk.choose('conductor', before.id)
  },
)
</script>

<template>
  <div class="bar">
    <p class="small said" role="status">
      {{ moving ? `Choose the terminal for the ${moving === 'from' ? 'first' : 'second'} end.` : said }}
      <span v-if="desk.says" class="bad">{{ desk.says }}</span>
    </p>
    <div class="do">
      <template v-if="desk.mayChange">
        <template v-if="chosenConductor && offered.conductor">
          <button type="button" class="act" @click="moving = 'from'">Move first end</button>
          <button type="button" class="act" @click="moving = 'to'">Move second end</button>
        </template>
        <button
          v-else-if="desk.chosen?.what === 'terminal' && offered.terminal && !desk.drawingFrom"
          type="button"
          class="act"
          @click="desk.begin(desk.chosen.id)"
        >
          Connect from here
        </button>
        <button type="button" class="act" :disabled="!desk.undone.length" @click="desk.undo()">Undo</button>
        <button v-if="desk.study?.own" type="button" class="act" @click="desk.takeProposal()">Take the proposal</button>
      </template>
      <button type="button" class="act" :aria-pressed="desk.shaded" @click="desk.shaded = !desk.shaded">
        {{ desk.shaded ? 'Hide the potentials' : 'Shade by potential' }}
      </button>
      <button type="button" class="act" :aria-pressed="desk.animated" @click="desk.animated = !desk.animated">
        {{ desk.animated ? 'Hide the current' : 'Show the current' }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px 24px;
  flex-wrap: wrap;
  min-height: 48px;
}
.said {
  margin: 0;
}
.act {
  background: none;
  border: 0;
  color: var(--action);
  font: inherit;
  font-weight: 600;
  min-height: 44px;
  padding: 0 8px;
  cursor: pointer;
}
.act:disabled {
  color: var(--second);
  font-weight: 400;
  cursor: default;
}
</style>
