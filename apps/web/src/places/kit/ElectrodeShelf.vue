<script setup lang="ts">
// The shelf: every electrode by its serial number, where it is, whether it may be plugged in, and its history.
import type { ElectrodeSort } from '@calm-loop/core/electrode'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, reactive, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useElectrodes } from '../../stores/electrodes.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import GradeMark from '../../widgets/GradeMark.vue'
import WordsField from '../../widgets/WordsField.vue'
import CalibrateElectrode from './CalibrateElectrode.vue'
import ElectrodeGlass from './ElectrodeGlass.vue'
import ElectrodeHistory from './ElectrodeHistory.vue'
import OwnBuffers from './OwnBuffers.vue'

const electrodes = useElectrodes()
const session = useSession()
const route = useRoute()
const router = useRouter()
onMounted(() => void electrodes.load())
const chosen = computed(() => electrodes.all.find((e) => e.id === route.query['electrode']) ?? electrodes.all[0])
const choose = (id: string) => {
  doing.value = ''
  void router.replace({ query: { do: 'electrodes', electrode: id } })
}
const doing = ref<'' | 'enter' | 'calibrate' | 'retire'>('')
const SORTS = [
  { value: 'ph', label: 'pH' },
  { value: 'orp', label: 'redox' },
]
const MEMORY = [
  { value: 'yes', label: 'keeps its calibration' },
  { value: 'no', label: 'has no memory' },
]
const fresh = () => ({ id: uuid(), entry: uuid(), sort: 'ph', serial: '', model: '', memory: 'yes', bestBefore: '' })
const form = reactive(fresh())
async function enter(): Promise<void> {
  const done = await electrodes.add(form.id, form.entry, {
    what: 'entered',
    sort: form.sort as ElectrodeSort,
    serial: form.serial.trim(),
    model: form.model.trim(),
    memory: form.memory === 'yes',
    ...(form.bestBefore ? { bestBefore: form.bestBefore } : {}),
  })
  if (!done) return void (form.entry = uuid())
  const { id } = form
  Object.assign(form, fresh())
  choose(id)
}
const why = ref('')
async function retire(id: string): Promise<void> {
  if (await electrodes.add(id, uuid(), { what: 'retired', words: why.value.trim() })) {
    why.value = ''
    doing.value = ''
  }
}
</script>

<template>
  <section aria-label="Electrodes">
    <div v-if="session.has('technician')" class="do">
      <v-btn v-if="doing !== 'enter'" data-test="enter-electrode" @click="doing = 'enter'">Enter an electrode</v-btn>
    </div>
    <form v-if="doing === 'enter'" class="edit-grid" aria-label="Enter an electrode" @submit.prevent="enter">
      <WordsField label="Serial number" :value="form.serial" needed @typed="form.serial = $event" />
      <WordsField label="What it is" :value="form.model" needed @typed="form.model = $event" />
      <ChoiceField label="Measures" :options="SORTS" :value="form.sort" @choose="form.sort = $event" />
      <ChoiceField label="Its memory" :options="MEMORY" :value="form.memory" @choose="form.memory = $event" />
      <WordsField label="Best before, unused" type="date" :value="form.bestBefore" @typed="form.bestBefore = $event" />
      <div class="do">
        <v-btn
          type="submit"
          color="primary"
          variant="flat"
          :disabled="!form.serial.trim() || !form.model.trim() || electrodes.busy"
          >Put it on the shelf</v-btn
        >
        <v-btn variant="text" @click="doing = ''">Leave it</v-btn>
      </div>
    </form>
    <p v-if="electrodes.problem && doing !== 'calibrate'" class="bad" role="alert">{{ electrodes.problem }}</p>
    <div v-if="electrodes.all.length" class="board" role="group" aria-label="The shelf">
      <ElectrodeGlass
        v-for="e in electrodes.all"
        :key="e.id"
        :electrode="e"
        :chosen="e.id === chosen?.id"
        :grade="electrodes.grade(e.now)"
        :says="electrodes.words(e.now)[0]!.says"
        @choose="choose(e.id)"
      />
    </div>
    <p v-else-if="electrodes.loaded" class="quiet none">
      The shelf is empty. An electrode that is entered here keeps its history, whatever point it serves.
    </p>
    <article v-if="chosen" :aria-label="`Electrode ${chosen.now.serial}`">
      <h2>
        <span class="figures">{{ chosen.now.serial }}</span> <span class="quiet">{{ chosen.now.model }}</span>
      </h2>
      <p>
        <template v-if="chosen.now.place.at === 'point'">
          Plugged in at
          <router-link :to="`/loops/${chosen.now.place.loopId}/point`">{{ chosen.now.place.tag }}</router-link>.
        </template>
        {{ chosen.now.memory ? 'It keeps its calibration itself.' : 'It has no memory: what is calibrated is typed.' }}
      </p>
      <ul class="words">
        <li v-for="w in electrodes.words(chosen.now)" :key="w.says" data-test="shelf-word">
          <GradeMark v-if="w.grade !== 'ready'" :grade="w.grade" /> <b>{{ w.says }}</b>{{ ' ' }}
          <span class="small quiet">{{ w.rule }}</span>
        </li>
      </ul>
      <div v-if="session.has('technician') && chosen.now.place.at !== 'retired' && !doing" class="do">
        <v-btn
          v-if="chosen.now.place.at === 'shelf'"
          color="primary"
          variant="flat"
          data-test="calibrate"
          @click="doing = 'calibrate'"
          >Calibrate it at the bench</v-btn
        >
        <v-btn variant="text" @click="doing = 'retire'">Put it out of use</v-btn>
      </div>
      <form v-if="doing === 'retire'" class="do" @submit.prevent="retire(chosen.id)">
        <WordsField label="Why it is put out of use" :value="why" needed @typed="why = $event" />
        <v-btn type="submit" color="primary" variant="flat" :disabled="!why.trim() || electrodes.busy"
          >Put it out of use</v-btn
        >
        <v-btn variant="text" @click="doing = ''">Leave it</v-btn>
      </form>
      <CalibrateElectrode v-if="doing === 'calibrate'" :key="chosen.id" :electrode="chosen" @done="doing = ''" />
      <ElectrodeHistory :electrode="chosen" />
    </article>
    <OwnBuffers />
  </section>
</template>

<style scoped>
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  margin-bottom: 8px;
}
.board {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  padding: 12px 0 0;
  margin-bottom: 16px;
  border-bottom: 6px solid var(--hairline);
}
.words {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
.none {
  padding: 24px 0;
}
</style>
