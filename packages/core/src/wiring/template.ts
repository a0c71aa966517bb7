// Device templates: the published schema of their files, and a template made from another by changing terminals,
// resistances and limits.
import { z } from 'zod'
import { Refusal } from '../refusal/index.ts'
import { renamedType } from './change.ts'
import { DeviceType, readDeviceType, type TerminalFunction } from './record.ts'

/** The schema of a device file, as JSON Schema (draft 2020-12). */
export const deviceSchema = (): Record<string, unknown> => ({
  $id: 'calm-loop/device-1',
  title: 'Device template of Calm Loop',
  ...(z.toJSONSchema(DeviceType) as Record<string, unknown>),
})

/** A template as the text of its file. */
export const writeDeviceType = (type: DeviceType): string => `${JSON.stringify(type, null, 2)}\n`

/** A template as it is edited: figures as numbers, undefined where none is given. */
export interface Draft {
  readonly id: string
  readonly name: string
  readonly place: DeviceType['place']
  /** `was` is the name in the template it is made from, empty for a new one. */
  readonly terminals: readonly { readonly was: string; readonly id: string; readonly does: TerminalFunction }[]
  /** Resistances by the name of their part, Ω. */
  readonly ohms: Readonly<Record<string, number | undefined>>
  /** Of its own supply, V. */
  readonly leastV: number | undefined
  readonly mostV: number | undefined
  /** Of the feed of its output, and the highest volts that an active one drives, V. */
  readonly figures: Readonly<Record<'feedLeast' | 'feedMost' | 'maxV', number | undefined>>
}

/** A template as a draft. */
export function draftOf(type: DeviceType): Draft {
  const figure = (key: string) => type.figures?.[key]
  return {
    id: type.id,
    name: type.name,
    place: type.place,
    terminals: type.terminals.map((t) => ({ was: t.id, id: t.id, does: t.does })),
    ohms: Object.fromEntries(
      type.inside.flatMap((p) =>
        p.part === 'resists' ? [[p.id, typeof p.ohm === 'number' ? p.ohm : figure(p.ohm)] as const] : [],
      ),
    ),
    leastV: type.power?.leastV,
    mostV: type.power?.mostV,
    figures: { feedLeast: figure('feedLeast'), feedMost: figure('feedMost'), maxV: figure('maxV') },
  }
}

const given = (figures: Readonly<Record<string, number | undefined>>): Record<string, number> =>
  Object.fromEntries(Object.entries(figures).flatMap(([k, v]) => (v === undefined ? [] : [[k, v] as const])))

function refuseBadFigures(d: Draft): void {
  const all = { ...d.ohms, ...d.figures, 'least supply': d.leastV, 'most supply': d.mostV }
  const bad = Object.entries(all).find(([, v]) => v !== undefined && !(Number.isFinite(v) && v > 0))
  if (bad) throw new Refusal('device-unreadable', `“${bad[0]}” must be above 0.`)
  const crossed = (low: number | undefined, high: number | undefined, what: string) => {
    if (low !== undefined && high !== undefined && low > high)
      throw new Refusal('device-unreadable', `The least ${what} is above the most.`)
  }
  crossed(d.leastV, d.mostV, 'supply')
  crossed(d.figures.feedLeast, d.figures.feedMost, 'feed')
}

/**
 * The template that a draft makes of another one.
 * @throws Refusal `device-unreadable` in words: a terminal named twice, no terminal, a part whose terminal is gone, a
 * figure not above 0, limits that cross
 */
export function editedType(base: DeviceType, draft: Draft): DeviceType {
  refuseBadFigures(draft)
  const names = Object.fromEntries(draft.terminals.filter((t) => t.was).map((t) => [t.was, t.id.trim()]))
  const kept = draft.terminals.map((t) => t.was)
  // What a new terminal is called must not be taken for one of before.
  const renamed = renamedType(
    { ...base, terminals: base.terminals.filter((t) => kept.includes(t.id)) },
    draft.id,
    draft.name.trim(),
    names,
  )
  const power = base.power
    ? { ...renamed.power, leastV: draft.leastV ?? base.power.leastV, mostV: draft.mostV ?? base.power.mostV }
    : undefined
  const figures = given({ ...base.figures, ...draft.figures })
  const { figures: _, power: __, ...rest } = renamed
  return readDeviceType(
    JSON.stringify({
      ...rest,
      place: draft.place,
      terminals: draft.terminals.map((t) => ({ id: t.id.trim(), does: t.does })),
      inside: renamed.inside.map((p) =>
        p.part === 'resists' && draft.ohms[p.id] !== undefined ? { ...p, ohm: draft.ohms[p.id] } : p,
      ),
      ...(power ? { power } : {}),
      ...(Object.keys(figures).length ? { figures } : {}),
    }),
  )
}
