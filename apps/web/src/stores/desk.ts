// The wiring desk that is open: the wiring drawn, the volts and milliamps in it at the thread's current, and what is
// chosen in it.
import { attempt, Refusal } from '@calm-loop/core/refusal'
import * as W from '@calm-loop/core/wiring'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { useFolder } from './folder.ts'
import { useSession } from './session.ts'
import { useThread } from './thread.ts'
import { sure } from '@calm-loop/core/sure'

/** Loop current for which volts are given while the thread has none, mA. */
const MIDDLE_mA = 12

export type Chosen = { readonly what: 'terminal' | 'conductor'; readonly id: string }

export const useDesk = defineStore('desk', () => {
  const folder = useFolder()
  const thread = useThread()
  const session = useSession()
  const study = computed(() => folder.study?.desk)
  /** Of a discrete point: whether volts are given with its target there. */
  const target = ref(true)
  const wiring = computed(() => study.value?.wiring)
  const mA = computed(() => {
    const current = thread.valueAt('current')
    return current?.known ? Math.min(25, Math.max(0, current.value)) : MIDDLE_mA
  })
  const conditions = computed<W.Conditions | undefined>(() =>
    study.value ? { ...study.value.conditions, mA: mA.value, target: target.value } : undefined,
  )
  /** Undefined while figures it rests on are missing, or where no voltages satisfy it. */
  const energised = computed(() => {
    const desk = study.value
    if (!desk || desk.needs.length || !conditions.value) return undefined
    const solved = attempt(() => W.energise({ wiring: desk.wiring, conditions: sure(conditions.value) }))
    return solved instanceof Refusal ? undefined : solved
  })
  const mains = computed(() => (wiring.value ? W.mainsOf(wiring.value) : undefined))
  const terminals = computed(() => (wiring.value ? W.terminalsOf(wiring.value) : undefined))
  /** Whether volts at a terminal are computed at all: not on mains or data. */
  const told = (ref_: string): boolean => {
    const does = terminals.value?.get(ref_)?.does
    return !!wiring.value && !!mains.value && !!does && W.hasVolts(wiring.value, mains.value, ref_, does)
  }

  const chosen = shallowRef<Chosen>()
  /** A terminal from which a conductor is being drawn. */
  const drawingFrom = ref('')
  const placement = shallowRef<W.Placement>()
  const animated = ref(false)
  /** Conductors are shaded by their potential. */
  const shaded = ref(false)
  /** Lowest and highest volts of all conductors that can be told; undefined while there are none. */
  const potentials = computed(() => {
    const e = energised.value
    if (!shaded.value || !e || !wiring.value) return undefined
    const all = wiring.value.conductors.flatMap((c) =>
      [c.from, c.to].flatMap((ref_) => (told(ref_) ? (e.volts(ref_) ?? []) : [])),
    )
    return all.length ? { low: Math.min(0, ...all), high: Math.max(1, ...all) } : undefined
  })
  /** Devices, conductors and terminals that a finding or an explanation is about. */
  const marked = shallowRef<readonly string[]>([])
  const says = ref('')
  const undone = shallowRef<readonly string[]>([])

  /** Gates confirmed so far, and where they leave the power for the wiring as it stands. */
  const text = computed(() => (wiring.value ? W.writeWiring(wiring.value) : ''))
  const gates = computed(() => folder.here.wireLog.filter((e) => e.what === 'gate'))
  const power = computed(() => W.gateState(gates.value, text.value))

  const mayChange = computed(() => session.has('technician'))
  const now = () => folder.entries['wiring']?.typed ?? ''
  function record(text: string): void {
    undone.value = [...undone.value.slice(-49), now()]
    folder.set('wiring', { typed: text })
  }
  /** Makes a change; what cannot be done says why and changes nothing. */
  function change(make: (wiring: W.Wiring) => W.Wiring): boolean {
    if (!wiring.value || !mayChange.value) return false
    const changed = attempt(() => make(sure(wiring.value)))
    says.value = changed instanceof Refusal ? changed.message : ''
    if (changed instanceof Refusal) return false
    record(W.writeWiring(changed))
    return true
  }
  const takeProposal = () => mayChange.value && record('')
  function undo(): void {
    const last = undone.value.at(-1)
    if (last === undefined) return
    undone.value = undone.value.slice(0, -1)
    folder.set('wiring', { typed: last })
    says.value = ''
  }

  function begin(ref_: string): void {
    if (!mayChange.value) return
    drawingFrom.value = ref_
    says.value = ''
  }
  /** The second terminal: a conductor between the two, in the colour that the other conductors of its kind have. */
  function finish(ref_: string): void {
    const from = drawingFrom.value
    drawingFrom.value = ''
    if (!from || from === ref_) return
    if (change((w) => W.connect(w, from, ref_))) choose('conductor', sure(sure(wiring.value).conductors.at(-1)).id)
  }
  function choose(what: Chosen['what'], id: string): void {
    chosen.value = { what, id }
  }

  // What was chosen, drawn or metered in one loop means nothing in the next.
  watch(
    () => folder.view?.loop.id,
    () => {
      chosen.value = undefined
      drawingFrom.value = ''
      placement.value = undefined
      undone.value = []
      says.value = ''
      animated.value = false
      shaded.value = false
      marked.value = []
    },
  )
  return {
    study,
    wiring,
    text,
    gates,
    power,
    mayChange,
    mA,
    target,
    conditions,
    energised,
    mains,
    told,
    chosen,
    drawingFrom,
    placement,
    animated,
    shaded,
    potentials,
    marked,
    says,
    undone,
    change,
    takeProposal,
    undo,
    begin,
    finish,
    choose,
  }
})
