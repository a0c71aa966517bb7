// Work at a clamp-on point, step by step: mounting the pair, and taking its zero.
import { TRANSDUCERS } from '../../flow/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { near, type Sheet, type SheetStep, type StepPlan } from '../../sheet/index.ts'
import type { Reader } from '../reader.ts'
import { clampOnOf, spacingOf, spacingPlan } from './setup.ts'
import { GAS_FLOOR_bar, gasFloor } from './findings.ts'

/** Of a gas: how many layers of film, and how thick in all. */
export function filmOf(r: Reader): string {
  const pair = TRANSDUCERS.find((t) => t.id === r.text('transducer'))
  const layers = pair?.filmLayers || 2
  const thick = pair?.film_mm || 2.4
  return `${layers} ${layers === 1 ? 'layer' : 'layers'}, ${show(thick, 'mm', { trim: true })} in all`
}
function filmSteps(r: Reader): SheetStep[] {
  return [
    {
      id: 'floor',
      title: 'Pressure at its floor',
      says:
        `A gas carries sound out of the wall only when it is dense enough: at least ${gasFloor()} gauge ` +
        'for a metal pipe.',
      ask: {
        label: 'Pressure at the pipe, gauge',
        quantity: 'pressure',
        unit: 'bar',
        entry: 'fluidPressure',
        plan: {
          against: `A gas needs at least ${gasFloor()} gauge here`,
          floor: GAS_FLOOR_bar,
          else: 'Below it no sound gets out of the wall: wait for the pressure, or choose another place.',
        },
      },
    },
    {
      id: 'film',
      title: `Damping film, ${filmOf(r)}`,
      says:
        'On the clean pipe, along it or, on a small pipe, around it, on both sides of where the pair will sit. ' +
        'Smooth it on from the middle; leave no bubbles, and pierce what stays.',
    },
  ]
}

/** A wall is gauged to a tenth of a millimetre, or two per cent. */
function wallPlan(r: Reader): StepPlan | undefined {
  const wall = r.in('wall', 'mm')
  if (wall === undefined || !(wall > 0)) return undefined
  const good = Math.max(0.1, 0.02 * wall)
  return {
    against: `Wall entered ${show(wall, 'mm', { decimals: 2, trim: true })}`,
    ...near(wall, { good, most: 0.5 * wall }),
    else:
      'Another wall gives another spacing and another flow. With a word it becomes the loop’s wall: set the spacing ' +
      'anew.',
  }
}

function mountSheet(r: Reader): Sheet {
  const gas = r.text('medium') === 'gas'
  const hot = (r.in('fluidTemp', 'degC') ?? 20) > 50
  const spacing = spacingOf(clampOnOf(r), r)
  const set = spacing
    ? `${show(spacing.spacing_mm, 'mm')} between the marks` +
      (spacing.holes === undefined
        ? ''
        : `: hole ${spacing.holes} of the index bar ` +
          `(${show(spacing.holeError_mm ?? 0, 'mm', { decimals: 1, sign: true })})`)
    : 'the spacing that the drawing gives'
  const sides =
    { '1': 'on opposite sides', '2': 'on the same side', '3': 'on opposite sides', '4': 'on the same side' }[
      r.text('traverses')
    ] ?? 'on the same side'
  return {
    id: 'mount',
    title: 'Mount the pair',
    steps: [
      {
        id: 'permit',
        title: 'Permit and place',
        says: 'Permit in hand, the place reached safely. Nothing is opened: the pair sits on the outside.',
        caution:
          `${hot ? 'Hot pipe: gloves and a cool-down of the couplant. ' : ''}Hazardous area: only equipment ` +
          'certified for its zone, and a permit for any other. Work at height: platform or harness as the site ' +
          'asks.',
        askWords: 'Who gave the permit',
      },
      {
        id: 'gauge',
        title: 'Gauge the wall',
        says:
          'At three places round the spot, the gauge set for the pipe’s material. The mean is the wall that the ' +
          'meter works with.',
        ask: { label: 'Mean wall', quantity: 'length', unit: 'mm', entry: 'wall', plan: wallPlan(r) },
      },
      {
        id: 'prepare',
        title: 'Prepare the surface',
        says: 'Paint that holds may stay; loose paint, rust and scale come off to bright metal. Wipe with a degreaser.',
        caution: 'Eye protection when grinding or brushing; no sparks in a hazardous area.',
      },
      ...(gas ? filmSteps(r) : []),
      {
        id: 'couplant',
        title: 'Couplant',
        says:
          'A bead along the middle of each face, or a cut pad for a lasting installation. No air between face ' +
          'and pipe.',
      },
      {
        id: 'spacing',
        title: `Set the pair ${sides}`,
        says:
          `Set ${set}. ` +
          `${r.text('run') === 'horizontal' ? 'At the side of the pipe, three or nine o’clock. ' : ''}Tighten ` +
          'evenly.',
        ask: {
          label: 'Spacing as set',
          quantity: 'length',
          unit: 'mm',
          entry: 'setSpacing',
          plan: spacing && spacingPlan(spacing.spacing_mm),
        },
      },
      ...(r.text('paths') === '2'
        ? [{ id: 'second', title: 'Second pair', says: 'The same spacing, turned by 90° round the pipe.' }]
        : []),
      {
        id: 'leads',
        title: 'Leads',
        says:
          `Upstream lead (${r.text('serialA') || 'the transducer that the flow meets first'}) to the upstream ` +
          `connector, downstream (${r.text('serialB') || 'the other'}) to the downstream one. Swapped leads ` +
          'read backwards.',
      },
      {
        id: 'temp',
        title: 'Temperature sensor',
        says:
          'On the bare pipe beside the pair, paste under it, insulated from the air outside. Where there is ' +
          'none, the temperature is entered.',
      },
    ],
  }
}

const MEANT: Readonly<Record<string, string>> = {
  same: 'Same side: the meter can cancel its own zero; what is left is judged.',
  opposite: 'Opposite sides: nothing cancels by itself. Stop the flow, and average.',
}

function zeroSheet(r: Reader): Sheet {
  const side = Number(r.text('traverses') || 2) % 2 === 0 ? 'same' : 'opposite'
  return {
    id: 'zero',
    title: 'Take the zero',
    steps: [
      {
        id: 'told',
        title: 'Operations told, loop in manual',
        says: 'The flow will be stopped, or reported as none while it is not.',
        caution:
          'Whatever this flow controls or trips stands still or acts while you work: by-passes only with a permit.',
        askWords: 'Who was told',
      },
      {
        id: 'stopped',
        title: 'Flow really stopped',
        says:
          `${MEANT[side]} Two closed valves, one on each side, and the pipe still full. A pump that stands is ` +
          'not a closed valve.',
        caution: 'Blocked-in liquid expands when it warms: leave it a relief.',
      },
      {
        id: 'found',
        title: 'Zero as found',
        says: 'Write down what the meter shows at no flow, before anything is changed.',
        ask: { label: 'Flow shown at no flow', quantity: 'volume-flow', unit: 'm3/h' },
      },
      {
        id: 'averaged',
        title: 'Averaged',
        says: 'Let the meter average for 30 s or more; within its specification it may be left as it was found.',
        opens: 'zero',
        ask: { label: 'Flow shown afterwards', quantity: 'volume-flow', unit: 'm3/h' },
      },
      {
        id: 'opened',
        title: 'Valves open again, operations told',
        says: 'Flow back, reading plausible, loop back in automatic by the operator.',
        askWords: 'Who was told',
      },
    ],
  }
}

export const clampOnSheets = (r: Reader): Sheet[] => [mountSheet(r), zeroSheet(r)]
