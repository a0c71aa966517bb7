// What a thermal insertion meter comes to: depth, velocity, signal at the ends of the range, and its doubt.
import { thermalDifference, thermalFlow, type FlowModel } from '../../flow/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { figure } from '../flow/shared.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { USUAL } from './fields.ts'
import { gasDensity, insertionOf, lawOf, verification } from './meter.ts'
import { sure } from '../../sure/index.ts'

export function figuresOf(r: Reader): Figure[] {
  const insertion = insertionOf(r)
  const needs = r.missing('od', 'wall', 'branch', 'valve', 'fitting')
  const mm = (key: string) => show(r.in(key, 'mm') ?? 0, 'mm', { decimals: 1, trim: true })
  const density = gasDensity(r)
  const [od, wall, urv] = [r.in('od', 'm'), r.in('wall', 'm'), r.in('urv', 'kg/s')]
  const bore = od !== undefined && wall !== undefined && od > 2 * wall ? od - 2 * wall : undefined
  const known = typeof density === 'number' ? density : undefined
  const velocity = known && bore && urv !== undefined ? urv / known / ((Math.PI / 4) * bore ** 2) : undefined
  const steps = verification(r, undefined, {})
  const geometry = 'Lengths of the mounting as entered'
  const says = density instanceof Refusal ? density.message : 'a length is below 0'
  return [
    figure({
      id: 'insert',
      label: 'Insert to, from the face to the stem’s end',
      unit: 'mm',
      decimals: 0,
      value: insertion?.insert_mm,
      from: {
        needs,
        says,
        working: () => ({
          formula: 'fittings + valve + branch + D/2 + tip',
          numbers: `${mm('fitting')} + ${mm('valve')} + ${mm('branch')} + ${mm('od')}/2 + ${mm('tip')}`,
          source: geometry,
        }),
      },
    }),
    figure({
      id: 'clear',
      label: 'Clear of the valve at',
      unit: 'mm',
      decimals: 0,
      value: insertion?.clear_mm,
      from: {
        needs,
        says,
        working: () => ({ formula: 'fittings', numbers: mm('fitting'), source: geometry }),
      },
    }),
    figure({
      id: 'travel',
      label: 'To be drawn back to close the valve',
      unit: 'mm',
      decimals: 0,
      value: insertion?.travel_mm,
      from: {
        needs,
        says,
        working: () => ({
          formula: 'insert − clear',
          numbers: `${mm('valve')} + ${mm('branch')} + ${mm('od')}/2 + ${mm('tip')}`,
          source: geometry,
        }),
      },
    }),
    figure({
      id: 'gas-density',
      label: 'Gas density',
      unit: 'kg/m3',
      decimals: 3,
      value: known,
      from: {
        needs: r.missing('gas', 'composition', 'fluidTemp', 'fluidPressure'),
        says,
        working: () => ({
          formula: 'ρ of the mixture',
          numbers:
            `at ${show(sure(r.in('fluidTemp', 'degC')), 'degC', { trim: true })} and ` +
            `${show(sure(r.in('fluidPressure', 'bar')), 'bar', { trim: true })} gauge`,
          source: 'AGA Report No. 8 Part 1, DETAIL',
        }),
      },
    }),
    figure({
      id: 'velocity-full',
      label: 'Velocity at the upper range value',
      unit: 'm/s',
      decimals: 2,
      value: velocity,
      from: {
        needs: [...r.missing('gas', 'composition', 'fluidTemp', 'fluidPressure', 'od', 'wall', 'urv')],
        says,
        working: () => ({
          formula: 'v = ṁ / (ρ·A)',
          numbers:
            `${show(sure(r.in('urv', USUAL)), USUAL)} / (${show(sure(known), 'kg/m3')} × area of ` +
            `${show(sure(bore) * 1000, 'mm', { decimals: 1 })})`,
          source: 'Continuity',
        }),
      },
    }),
    figure({
      id: 'nozzle',
      label: 'Nozzle passes at step 4, as on the baseline day',
      unit: USUAL,
      decimals: 2,
      value: steps.find((s) => s.n === 4)?.nozzle_kgph,
      from: {
        needs: r.missing('throat', 'discharge', 'baseTemp', 'base4Pressure', 'base4Reading'),
        says: 'a figure of the nozzle is not above 0',
        working: () => ({
          formula: 'ṁ = C·A·p·√(γ·M/(R·T))·(2/(γ+1))^((γ+1)/(2(γ−1)))',
          numbers:
            `throat ${show(sure(r.in('throat', 'mm')), 'mm')}, C ${r.text('discharge')}, ` +
            `${show(sure(r.in('base4Pressure', 'bar')), 'bar', { trim: true })} gauge, ` +
            `${show(sure(r.in('baseTemp', 'degC')), 'degC', { trim: true })}`,
          source: 'Choked flow of an ideal gas (as in ISO 9300)',
        }),
      },
    }),
  ]
}

export function modelOf(r: Reader): FlowModel | undefined {
  const law = lawOf(r)
  const [a, b] = [r.in('lrv', USUAL), r.in('urv', USUAL)]
  if (!law || a === undefined || b === undefined || !((a + b) / 2 > 0)) return undefined
  return {
    inputs: [
      {
        key: 'dtZero',
        label: 'Difference at no flow',
        unit: 'K',
        value: law.dtZero_K,
        tolerance: law.dtZero_K * 0.005,
        distribution: 'normal',
      },
      {
        key: 'dtFull',
        label: 'Difference at the certificate’s flow',
        unit: 'K',
        value: law.dtFull_K,
        tolerance: law.dtFull_K * 0.005,
        distribution: 'normal',
      },
      {
        key: 'fullFlow',
        label: 'Flow of the certificate',
        unit: USUAL,
        value: law.fullFlow,
        tolerance: law.fullFlow * 0.01,
        distribution: 'normal',
      },
      {
        key: 'difference',
        label: 'Difference measured',
        unit: 'K',
        value: thermalDifference(law, (a + b) / 2),
        tolerance: 0.02,
        distribution: 'normal',
      },
    ],
    outputs: [{ id: 'flow', label: 'Mass flow', unit: USUAL, decimals: 2 }],
    compute: (v) => [thermalFlow({ dtZero_K: sure(v[0]), dtFull_K: sure(v[1]), fullFlow: sure(v[2]) }, sure(v[3]))],
  }
}
