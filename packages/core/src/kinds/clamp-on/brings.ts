// What is brought to this pair on this pipe.
import { TRANSDUCERS } from '../../flow/index.ts'
import type { Thing } from '../../round/index.ts'
import type { Reader } from '../reader.ts'
import { filmOf } from './sheets.ts'

/** Above it an everyday couplant dries or runs, °C. A rule of the trade. */
const HOT_C = 50

export function bringsOf(r: Reader): readonly Thing[] {
  const pair = TRANSDUCERS.find((t) => t.id === r.text('transducer'))
  const serials = [r.text('serialA'), r.text('serialB')].filter((s) => s.trim())
  const hot = (r.in('fluidTemp', 'degC') ?? 0) > HOT_C
  const named = [pair?.name, serials.length ? `serials ${serials.join(' and ')}` : ''].filter(Boolean).join(', ')
  return [
    ...(named ? [{ what: `pair ${named}`, each: true, instead: 'pair of transducers, both serials' }] : []),
    ...(r.text('medium') === 'gas'
      ? [{ what: `damping film, ${filmOf(r)}`, each: true, instead: 'damping film by layers and size' }]
      : [{ what: hot ? 'couplant for a hot pipe' : 'couplant or pads', each: true, instead: 'couplant or pads' }]),
  ]
}
