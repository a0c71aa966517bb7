<script setup lang="ts">
// The electrode that is plugged in at this point: read up from its memory, taken out, or another from the shelf in its
// place.
import type { ElectrodeSort } from '@calm-loop/core/electrode'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref } from 'vue'
import { useElectrodes, type KnownElectrode } from '../../stores/electrodes.ts'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{ sort: ElectrodeSort }>()
const electrodes = useElectrodes()
const folder = useFolder()
const session = useSession()
onMounted(() => void electrodes.load())
const here = computed(() => electrodes.at(folder.view?.loop.id))
const shelf = computed(() =>
  electrodes.all
    .filter(({ now }) => now.sort === props.sort && now.place.at === 'shelf')
    .map((e) => ({ ...e, grade: electrodes.grade(e.now), says: electrodes.words(e.now)[0]?.says })),
)
const why = ref('')
/** A record of the bench would be one of nobody's electrode. */
const mayChange = computed(() => session.has('technician') && !folder.practising)
const figures = ({ now: { last } }: KnownElectrode) =>
  last
    ? [
        ...(last.slopePercent === undefined ? [] : [`${last.slopePercent.toFixed(1)} %`]),
        `${last.offset_mV.toFixed(1).replace('-', '−')} mV`,
        `calibrated ${dayWords(last.at)}`,
      ].join(', ')
    : 'never calibrated'
async function plugIn(e: KnownElectrode): Promise<void> {
  const loopId = folder.view?.loop.id
  if (loopId && (await electrodes.add(e.id, uuid(), { what: 'plugged-in', loopId }))) await folder.refresh()
}
async function takeOut(e: KnownElectrode): Promise<void> {
  if (await electrodes.add(e.id, uuid(), { what: 'taken-out', words: why.value.trim() })) why.value = ''
}
</script>

<template>
  <section class="here" aria-label="Electrode at this point" data-test="electrode-here">
    <template v-if="here">
      <p>
        Plugged in: <b class="figures">{{ here.now.serial }}</b>, {{ here.now.model }}; {{ figures(here) }}.
        <router-link :to="{ path: '/kit', query: { do: 'electrodes', electrode: here.id } }">Its history</router-link>
      </p>
      <form v-if="mayChange" class="do" @submit.prevent="takeOut(here)">
        <v-btn :disabled="electrodes.busy" data-test="read-up" @click="plugIn(here)">Read its memory up again</v-btn>
        <WordsField label="Why it is taken out" :value="why" @typed="why = $event" />
        <v-btn type="submit" :disabled="electrodes.busy || !why.trim()" data-test="take-out">Take it out</v-btn>
      </form>
    </template>
    <template v-else-if="electrodes.loaded">
      <p class="small quiet">
        No electrode of the shelf is plugged in here: what the entries say of it is typed. One that is plugged in brings
        its slope and offset with it.
      </p>
      <ul v-if="shelf.length" class="shelf">
        <li v-for="e in shelf" :key="e.id">
          <GradeMark v-if="e.grade !== 'ready'" :grade="e.grade" wordless />
          <span
            ><b class="figures">{{ e.now.serial }}</b> <span class="small">{{ figures(e) }}</span></span
          >
          <span class="small quiet">{{ e.says }}</span>
          <v-btn
            v-if="mayChange"
            :disabled="electrodes.busy || e.grade === 'stop'"
            :data-plug="e.now.serial"
            @click="plugIn(e)"
            >Plug it in here</v-btn
          >
        </li>
      </ul>
      <p v-else class="small quiet">
        None is on the shelf: <router-link to="/kit?do=electrodes">enter one there</router-link>.
      </p>
    </template>
    <p v-if="electrodes.problem" class="bad" role="alert">{{ electrodes.problem }}</p>
  </section>
</template>

<style scoped>
.do > :deep(.entry) {
  width: min(320px, 100%);
}
.here {
  border-top: 1px solid var(--hairline);
  margin-top: 12px;
  padding-top: 10px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.shelf {
  list-style: none;
  padding: 0;
  margin: 0;
}
.shelf li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
  min-height: 52px;
  border-bottom: 1px solid var(--hairline);
}
</style>
