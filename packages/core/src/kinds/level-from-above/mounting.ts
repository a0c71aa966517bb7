// How a head hangs over its tank: the beam clear of wall and fittings, the nozzle, the air in its path, the filling.
import type { Finding } from '../../findings/index.ts'
import { VAPOURS_SOURCE, vapourPath } from '../../level/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { sure } from '../../sure/index.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import type { Geometry } from './geometry.ts'

const seconds = (v: number) => show(v, 's', { decimals: 1, trim: true })
const mm = (v: number) => show(v, 'mm', { decimals: 0, trim: true })
const tanHalf = (r: Reader): number | undefined => {
  const angle = r.in('beamAngle', 'rad')
  return angle !== undefined && angle > 0 && angle < Math.PI / 2 ? Math.tan(angle / 2) : undefined
}
/** Half the width of the beam at a distance from the face, mm. */
export const beamRadius = (r: Reader, distance: number): number | undefined => {
  const t = tanHalf(r)
  return t === undefined ? undefined : t * distance
}
const lagOf = (r: Reader): number | undefined => {
  const [rate, damping] = [r.in('fillRate', 'mm/s'), r.in('damping', 's') ?? 0]
  return rate === undefined ? undefined : rate * damping
}
const vapourOf = (r: Reader, { target }: Geometry) => {
  const id = r.text('vapour')
  return target || id === 'none' || !id ? undefined : attempt(() => vapourPath(id, r.in('airTemp', 'degC') ?? 20))
}

/** Figures of the mounting; only those that something was entered for. */
export function mountingFigures(r: Reader, g: Geometry, unit: string, decimals: number): Figure[] {
  const figures: Figure[] = []
  const distance = (
    id: string,
    stage: 'point' | 'range',
    label: string,
    of: { mm: number; formula: string; numbers: string },
  ) =>
    figures.push({
      id,
      stage,
      label,
      unit,
      decimals,
      value: Number(convertUnit(of.mm, 'mm', unit).toPrecision(12)),
      working: () => ({
        title: label,
        formula: of.formula,
        numbers: of.numbers,
        source: 'Geometry of the mounting as entered',
      }),
    })
  const radius = g.empty === undefined ? undefined : beamRadius(r, g.empty)
  if (radius !== undefined && r.in('wallDistance', 'mm') !== undefined)
    distance('beam-radius', 'point', 'Half the beam’s width at empty', {
      mm: radius,
      formula: 'r = empty distance · tan(angle/2)',
      numbers:
        `${mm(sure(g.empty))} × tan(${show(r.in('beamAngle', 'deg') ?? 0, 'deg', { trim: true })}/2) = ` + mm(radius),
    })
  if (g.face !== undefined && g.blanking !== undefined)
    distance('sticks-at', 'point', 'The reading stands still above', {
      mm: g.face - g.blanking,
      formula: 'face − blanking distance',
      numbers: `${mm(g.face)} − ${mm(g.blanking)} = ${mm(g.face - g.blanking)}`,
    })
  const vapour = vapourOf(r, g)
  if (vapour)
    figures.push({
      id: 'vapour-error',
      stage: 'point',
      label: 'Distance error by the vapour, uncorrected',
      unit: '%',
      decimals: 2,
      ...(vapour instanceof Refusal
        ? { says: vapour.message }
        : {
            value: vapour.distanceError_pct,
            working: () => ({
              title: 'Distance error',
              formula: 'e = c(dry)/c(with vapour) − 1',
              numbers: `${(100 * vapour.share).toFixed(1)} % vapour: sound ${vapour.faster_pct.toFixed(2)} % faster`,
              source: VAPOURS_SOURCE,
            }),
          }),
    })
  const lag = lagOf(r)
  if (lag !== undefined)
    distance('fill-lag', 'range', 'Reading lags at the fastest rise by', {
      mm: lag,
      formula: 'rate · damping',
      numbers:
        `${show(r.in('fillRate', 'mm/s') ?? 0, 'mm/s', { trim: true })} × ` +
        `${show(r.in('damping', 's') ?? 0, 's', { trim: true })} = ${mm(lag)}`,
    })
  return figures
}

/** What the beam meets on its way. */
function beamFindings(r: Reader, g: Geometry): Finding[] {
  const found: Finding[] = []
  const t = tanHalf(r)
  const look = (f: Omit<Finding, 'grade'>) => found.push({ grade: 'look', ...f })
  if (r.in('beamAngle', 'deg') !== undefined && t === undefined)
    found.push({
      code: 'beam-angle-impossible',
      grade: 'stop',
      fields: ['beamAngle'],
      what: `${show(r.in('beamAngle', 'deg') ?? 0, 'deg', { trim: true })} is no angle of a beam.`,
      why: 'It lies above 0° and below 90°.',
      sure: 'Certain.',
      action: 'Take the whole angle from the data sheet.',
    })
  if (t === undefined || g.empty === undefined) return found
  for (const [key, code, name] of [
    ['wallDistance', 'beam-on-wall', 'the wall'],
    ['inletDistance', 'beam-in-inlet', 'the inlet’s stream'],
  ] as const) {
    const clear = r.in(key, 'mm')
    if (g.target && key === 'inletDistance') continue
    if (clear !== undefined && t * g.empty > clear)
      look({
        code,
        fields: [key, 'beamAngle', 'emptyDistance'],
        what:
          `At ${mm(Math.max(0, clear) / t)} from the face the beam reaches ${name}; at empty it is ` +
          `${mm(t * g.empty)} to each side, ${mm(clear)} are clear.`,
        why: 'What it hears there is taken for the surface: the level sticks at that height as the tank empties.',
        sure: 'Likely; a smooth wall that runs along the beam sends little back.',
        action: `Move the head to ${mm(t * g.empty)} or more from ${name}, or map the echo out with the tank empty.`,
      })
  }
  if (g.target) return found
  const [deep, wide] = [r.in('nozzleHeight', 'mm') ?? 0, r.in('nozzleWidth', 'mm')]
  if (wide !== undefined && deep > 0 && t * deep > wide / 2)
    look({
      code: 'beam-on-nozzle',
      fields: ['nozzleHeight', 'nozzleWidth', 'beamAngle'],
      what: `The beam is ${mm(2 * t * deep)} wide at the nozzle’s end, the nozzle ${mm(wide)}.`,
      why: 'Its rim is heard in place of the surface.',
      sure: 'Likely.',
      action: 'A wider or shorter nozzle, its end cut clean inside.',
    })
  if (g.blanking !== undefined && deep > g.blanking)
    look({
      code: 'nozzle-beyond-blanking',
      fields: ['nozzleHeight', 'blanking'],
      what: `The nozzle ends ${mm(deep)} from the face, beyond the blanking distance of ${mm(g.blanking)}.`,
      why: 'The echo of its rim is not blanked out.',
      sure: 'Certain, if the lengths are right.',
      action: `A blanking distance of ${mm(deep)} or more, as far as full allows.`,
    })
  return found
}

/** What the path and the filling do to the reading. */
export function mountingFindings(r: Reader, g: Geometry): Finding[] {
  const found = beamFindings(r, g)
  const vapour = vapourOf(r, g)
  const tolerance = r.in('tolerance', '%')
  const span = g.level4 === undefined || g.level20 === undefined ? undefined : Math.abs(g.level20 - g.level4)
  const allowed = tolerance === undefined || !span ? undefined : (tolerance / 100) * span
  if (vapour && !(vapour instanceof Refusal) && g.empty !== undefined && allowed !== undefined) {
    const error = Math.abs((vapour.distanceError_pct / 100) * g.empty)
    if (error > allowed)
      found.push({
        code: 'vapour-in-path',
        grade: 'look',
        fields: ['vapour', 'airTemp'],
        what: `Air full of that vapour shifts the reading at empty by up to ${mm(error)}; ${mm(allowed)} are allowed.`,
        why: 'The temperature is corrected, what the air is made of is not.',
        sure: 'As sure as that the air is full of it: it may be drier.',
        action: 'Measure at one known level and correct there, or take a probe.',
      })
  }
  const lag = lagOf(r)
  if (lag !== undefined && allowed !== undefined && lag > allowed)
    found.push({
      code: 'damping-lags-filling',
      grade: 'look',
      fields: ['damping', 'fillRate'],
      what: `At the fastest rise the reading lags ${mm(lag)} behind the level; ${mm(allowed)} are allowed.`,
      why: 'A high alarm comes by that much too late.',
      sure: 'Certain, if rise and damping are right.',
      action: `A damping of ${seconds((allowed / lag) * (r.in('damping', 's') ?? 0))} or less, or a lower alarm.`,
    })
  if (r.text('echoLost') === 'empty')
    found.push({
      code: 'echo-lost-empty',
      grade: 'look',
      fields: ['echoLost'],
      what: 'When the echo is lost the device shows empty.',
      why: 'Foam on a full tank is then an empty tank: it is filled until it runs over.',
      sure: 'Certain; right only where dry running is the danger and overfill is caught otherwise.',
      action: 'Let it show the fault current, or full.',
    })
  return found
}
