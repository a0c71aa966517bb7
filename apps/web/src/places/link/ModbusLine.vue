<script setup lang="ts">
// A Modbus line: who answers, what is wrong with it; a register map read, and its word order found against a figure
// that is known.
import type { BusReport, Port, RegisterValue } from '@calm-loop/contract'
import { mapSchema, orderSettled, tryOrders, type Register, type RegisterMap } from '@calm-loop/core/modbus'
import { parseNumber } from '@calm-loop/core/quantity'
import { computed, ref, shallowRef } from 'vue'
import { call } from '../../api/client.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useSession } from '../../stores/session.ts'
import { useDoing } from '../../widgets/doing.ts'
import { firstWrong, jsonIn } from '../../widgets/files.ts'
import PickFile from '../../widgets/PickFile.vue'
import WordsField from '../../widgets/WordsField.vue'
import WriteRegister from './WriteRegister.vue'

const props = defineProps<{ port: Port }>()
const session = useSession()
const preferences = usePreferences()
const { busy, says, run } = useDoing()
const may = computed(() => session.has('technician'))
const report = shallowRef<BusReport>()
const last = ref('32')
const scan = () =>
  run(async () => {
    const to = Math.min(247, Math.max(1, Math.round(Number(last.value)) || 32))
    report.value = await call('scanBus', { params: { portId: props.port.id }, body: { from: 1, to } })
  })
const answering = computed(() => report.value?.lines.filter((l) => l.outcome !== 'silence') ?? [])
const map = shallowRef<RegisterMap>()
const values = shallowRef<RegisterValue[]>([])
async function pick(file: File): Promise<void> {
  await run(async () => {
    const json = await jsonIn(file)
    const parsed = mapSchema.safeParse(json)
    if (!parsed.success) throw new Error(`The file is no register map: ${firstWrong(parsed.error.issues)}`)
    map.value = parsed.data
    await read()
  })
}
const read = async () => {
  if (map.value)
    values.value = await call('readRegisters', { params: { portId: props.port.id }, body: { map: map.value } })
}
const again = () => run(read)
const shown = (v: number | null) =>
  v === null ? 'no number' : String(Number(v.toPrecision(7))).replace('.', preferences.decimalMark)

/** The register that is to be written. */
const changing = shallowRef<Register>()
const registerOf = (name: string) => map.value?.registers.find((r) => r.name === name)
function writable(name: string): boolean {
  const r = registerOf(name)
  return !!r && !r.readOnly && (r.table === 'holding' || r.table === 'coil')
}
function ask(name: string): void {
  changing.value = undefined
  asked.value = name
}
function change(name: string): void {
  asked.value = ''
  changing.value = registerOf(name)
}
function took(held: RegisterValue): void {
  const says = held.says === 'held, read back' ? '' : held.says
  values.value = values.value.map((v) => (v.name === held.name ? { ...held, says } : v))
  if (!says) changing.value = undefined
}

/** How far from what is known, as people say it. */
const apart = (off: number | null) =>
  off === null
    ? ''
    : off > 1
      ? 'far off'
      : `${String(Number((100 * off).toPrecision(2))).replace('.', preferences.decimalMark)} % off`

/** The register whose order is looked for, and what another witness shows. */
const asked = ref('')
const known = ref('')
const orders = computed(() => {
  const register = map.value?.registers.find((r) => r.name === asked.value)
  const value = values.value.find((v) => v.name === asked.value)
  const read = parseNumber(known.value, { decimalMark: preferences.decimalMark })
  if (!register || !value?.registers.length || !('value' in read) || register.type === 'bit') return undefined
  const found = tryOrders(register, value.registers, read.value)
  return { found, settled: orderSettled(found) }
})
function settle(order: RegisterMap['registers'][number]['order']): void {
  if (!map.value) return
  map.value = {
    ...map.value,
    registers: map.value.registers.map((r) => (r.name === asked.value ? { ...r, order } : r)),
  }
  asked.value = known.value = ''
  void again()
}
</script>

<template>
  <p class="quiet">
    <b>{{ port.label }}</b> at <span class="figures">{{ port.at }}</span>
  </p>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <form v-if="may" class="scan" @submit.prevent="scan">
    <WordsField label="Ask addresses 1 to" :value="last" @typed="last = $event" />
    <v-btn type="submit" color="primary" variant="flat" :loading="busy">Find who answers</v-btn>
    <PickFile label="Register map, as a file" accept=".json,application/json" @picked="pick" />
  </form>
  <section v-if="report" data-test="bus">
    <p v-if="!answering.length" class="look">Nothing came from {{ report.lines.length }} addresses.</p>
    <v-table v-else aria-label="Addresses that answer">
      <thead>
        <tr>
          <th class="num">Address</th>
          <th>What came</th>
          <th class="num">Took</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in answering" :key="l.unitId">
          <td class="num">{{ l.unitId }}</td>
          <td>{{ l.says }}</td>
          <td class="num">{{ l.took_ms }} ms</td>
        </tr>
      </tbody>
    </v-table>
    <ul v-if="report.diagnosis.length" class="caution">
      <li v-for="d in report.diagnosis" :key="d">{{ d }}</li>
    </ul>
  </section>
  <section v-if="map">
    <div class="place-head">
      <h2>Registers of unit {{ map.unit }}</h2>
      <v-btn variant="text" :loading="busy" @click="again">Read again</v-btn>
    </div>
    <v-table aria-label="Registers">
      <thead>
        <tr>
          <th class="num">Number</th>
          <th>Name</th>
          <th class="num">Value</th>
          <th>Unit</th>
          <th class="num">Words</th>
          <th><span class="visually-hidden">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="v in values" :key="v.name" :data-register="v.name">
          <td class="num">{{ v.number }}</td>
          <td>{{ v.name }}</td>
          <td class="num">{{ v.says || shown(v.value) }}</td>
          <td>{{ v.unit }}</td>
          <td class="num small quiet">{{ v.registers.join(' ') }}</td>
          <td>
            <v-btn v-if="v.registers.length === 2" variant="text" @click="ask(v.name)">Find its order</v-btn>
            <v-btn v-if="may && writable(v.name)" variant="text" @click="change(v.name)">Change it</v-btn>
          </td>
        </tr>
      </tbody>
    </v-table>
    <WriteRegister
      v-if="changing"
      :key="changing.name"
      :port-id="port.id"
      :unit="map.unit"
      :register="changing"
      :now="values.find((v) => v.name === changing?.name)"
      @done="took"
      @leave="changing = undefined"
    />
    <section v-if="asked" class="caution" data-test="orders">
      <WordsField
        :label="`What ${asked} is, by another witness`"
        :value="known"
        help="The device’s own display, say. A wrong order gives a figure that looks right and is not."
        @typed="known = $event"
      />
      <v-table v-if="orders" aria-label="The four orders">
        <tbody>
          <tr v-for="o in orders.found" :key="o.order">
            <td class="figures">{{ o.order }}</td>
            <td class="num">{{ shown(o.value) }}</td>
            <td class="num quiet">{{ apart(o.off) }}</td>
            <td>
              <v-btn v-if="o.order === orders.settled" variant="outlined" @click="settle(o.order)">Take it</v-btn>
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-if="orders && !orders.settled" class="small">
        None of the four is within 2 % alone. Let the value move, and compare again.
      </p>
    </section>
  </section>
</template>

<style scoped>
.scan {
  display: grid;
  grid-template-columns: minmax(140px, 220px) auto minmax(240px, 1fr);
  gap: 8px 24px;
  align-items: center;
}
@media (max-width: 740px) {
  .scan {
    grid-template-columns: 1fr;
  }
}
</style>
