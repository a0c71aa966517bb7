// A wiring in a few words, and what was changed from one to the next.
import { attempt, Refusal } from '../refusal/index.ts'
import { readWiring, type Wiring } from './record.ts'

const counted = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`
const read = (text: string): Wiring | undefined => {
  const wiring = text === '' ? undefined : attempt(() => readWiring(text))
  return wiring instanceof Refusal ? undefined : wiring
}

/** The wiring on record as a person would name it; an empty text is the proposal. */
export function wiringWords(text: string): string {
  if (text === '') return 'the proposed wiring'
  const wiring = read(text)
  if (!wiring) return 'a wiring that cannot be read'
  return `a wiring of ${counted(wiring.devices.length, 'device')} and ${counted(wiring.conductors.length, 'conductor')}`
}

/** What was changed between two wirings, conductor by conductor; in few words where one of them is the proposal. */
export function wiringChanges(before: string, after: string): string {
  const [a, b] = [read(before), read(after)]
  if (!a || !b) return `${wiringWords(before)} → ${wiringWords(after)}`
  const end = (ref: string) => ref || 'cut back'
  const changes = [
    ...b.devices.filter((d) => !a.devices.some((x) => x.id === d.id)).map((d) => `${d.id} ${d.name} put in`),
    ...a.devices.filter((d) => !b.devices.some((x) => x.id === d.id)).map((d) => `${d.id} ${d.name} taken out`),
    ...a.conductors.filter((c) => !b.conductors.some((x) => x.id === c.id)).map((c) => `${c.id} taken out`),
    ...b.conductors.flatMap((c) => {
      const was = a.conductors.find((x) => x.id === c.id)
      if (!was) return [`${c.id} from ${end(c.from)} to ${end(c.to)} put in`]
      return [
        ...(was.from !== c.from ? [`${c.id} first end ${end(was.from)} → ${end(c.from)}`] : []),
        ...(was.to !== c.to ? [`${c.id} second end ${end(was.to)} → ${end(c.to)}`] : []),
        ...(['cable', 'core', 'colour', 'ferrule'] as const).flatMap((key) =>
          (was[key] ?? '') === (c[key] ?? '') ? [] : [`${c.id} ${key} ${was[key] || 'none'} → ${c[key] || 'none'}`],
        ),
      ]
    }),
  ]
  return changes.join(', ') || 'devices or cables described otherwise'
}
