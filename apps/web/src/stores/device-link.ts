// The port at hand: what it is doing, the device on it, and what is to be written.
import { LinkState, type DeviceFile, type DeviceWrite, type Port } from '@calm-loop/contract'
import type { Parameter, Value } from '@calm-loop/core/description'
import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef } from 'vue'
import { addressOf, call } from '../api/client.ts'
import { openStream } from '../api/stream.ts'

export const useDeviceLink = defineStore('device-link', () => {
  const ports = shallowRef<readonly Port[]>([])
  const port = shallowRef<Port>()
  const state = shallowRef<LinkState>()
  const parameters = shallowRef<readonly Parameter[]>([])
  /** Labels of the groups that they stand in, by id. */
  const groups = shallowRef<Readonly<Record<string, string>>>({})
  const files = shallowRef<readonly DeviceFile[]>([])
  /** Values that are to be written, by parameter. */
  const edits = ref<Record<string, Value>>({})
  let close: (() => void) | undefined

  async function load(): Promise<void> {
    ports.value = await call('ports')
  }
  let knownBy = ''
  async function hear(next: LinkState): Promise<void> {
    state.value = next
    const key = next.device
      ? `${next.device.serial} ${next.device.description.id} ${next.device.description.version}`
      : ''
    if (key === knownBy) return
    knownBy = key
    edits.value = {}
    const told = key ? await call('deviceParameters', { params: { portId: next.portId } }) : undefined
    parameters.value = told?.parameters ?? []
    groups.value = Object.fromEntries((told?.groups ?? []).map((g) => [g.id, g.label]))
    files.value = next.device ? await call('deviceFiles', { query: { serial: next.device.serial } }) : []
  }
  async function open(portId: string): Promise<void> {
    leave()
    if (!ports.value.length) await load()
    port.value = ports.value.find((p) => p.id === portId)
    if (port.value?.protocol !== 'hart') return
    await hear(await call('linkState', { params: { portId } }))
    close = openStream(addressOf('linkStates', { portId }), {
      on: {
        state(text) {
          const parsed = LinkState.safeParse(JSON.parse(text))
          if (parsed.success) void hear(parsed.data).catch(() => undefined)
        },
      },
    })
  }
  function leave(): void {
    close?.()
    close = undefined
    state.value = undefined
    port.value = undefined
    knownBy = ''
    edits.value = {}
  }
  const params = () => ({ portId: port.value?.id ?? '' })
  const busy = computed(() => ['probing', 'reading', 'writing'].includes(state.value?.doing ?? ''))
  const changes = computed(() => parameters.value.filter((p) => p.id in edits.value))
  const movesOutput = computed(() => changes.value.some((p) => p.movesOutput || p.type === 'unit'))

  async function write(cautions: string[], constants: string[]): Promise<DeviceWrite[]> {
    const rows = await call('writeValues', {
      params: params(),
      body: { id: uuid(), values: edits.value, cautions: cautions as ('manual' | 'trips' | 'area')[], constants },
    })
    // What was not taken stays typed.
    const done = new Set(rows.filter((r) => r.state === 'held').map((r) => r.parameter))
    edits.value = Object.fromEntries(Object.entries(edits.value).filter(([id]) => !done.has(id)))
    return rows
  }
  async function save(note: string): Promise<DeviceFile> {
    const file = await call('saveDeviceFile', { params: params(), body: { id: uuid(), note } })
    files.value = [file, ...files.value]
    return file
  }
  function put(id: string, value: Value | undefined): void {
    const { [id]: _, ...rest } = edits.value
    edits.value = value === undefined || value === state.value?.values[id] ? rest : { ...rest, [id]: value }
  }
  return {
    ports,
    port,
    state,
    parameters,
    groups,
    files,
    edits,
    busy,
    changes,
    movesOutput,
    load,
    open,
    leave,
    params,
    write,
    save,
    put,
    hear,
  }
})
