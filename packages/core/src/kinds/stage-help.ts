// What each stage of the work is for, whoever meets it for the first time: what, why, how, and what people get wrong.
import type { Family, StageId } from './run-sheets.ts'

export interface StageHelp {
  readonly what: string
  readonly why: string
  readonly how: string
  readonly wrong: string
}

const IDENTIFY: StageHelp = {
  what: 'Which device this is: make, type, serial number, and what it is to measure.',
  why: 'All that follows is true of one device only. A like one from the shelf has other limits and other constants.',
  how: 'Read the plate at the device, not the drawing. Type what stands there; units may be typed as they are printed.',
  wrong: 'Copying the plate of the neighbour, or of the device that was there last year.',
}
const HAND_OVER: StageHelp = {
  what: 'The papers: who checked, who looked it over, and what is given to whom.',
  why: 'The next one works by what is left here. A loop that works and has no paper is checked again by somebody.',
  how: 'Sign what you did yourself; let another person look it over; print or send what is asked for.',
  wrong: 'Signing for a colleague, or leaving a by-pass for the next shift to find.',
}
const HELP: Readonly<Record<Family, Partial<Record<StageId, StageHelp>>>> = {
  current: {
    identify: IDENTIFY,
    wire: {
      what: 'The way of the current: supply, conductors, transmitter, receiver, and what else stands in the loop.',
      why: 'A transmitter needs volts to push its current. They are lost in cables, barriers and receivers.',
      how: 'Choose how it is wired, or draw it; “Before power” says what to prove with a meter, and what it will show.',
      wrong: 'Measuring volts with the loop open, seeing 24 V, and calling it good.',
    },
    point: {
      what: 'Where and how it measures: the vessel, the pipe, the fluid, the mounting.',
      why: 'Most wrong readings are right readings of another tank: a length, a wall, a density that is not so.',
      how: 'Measure what can be measured, take the rest from papers. Figures beside the entries follow as you type.',
      wrong: 'Taking nominal sizes for true ones, and the height of the tank for that of the flange.',
    },
    range: {
      what: 'Which value is 4 mA and which is 20 mA, at the device and at the controller.',
      why: 'The current has no unit. Two scales that differ give two truths, and both look well.',
      how: 'Type the ends; the drawing shows both scales side by side. Where they differ a line leans.',
      wrong: 'Changing one end for a new process and leaving the other for later.',
    },
    'switch-point': {
      what: 'At which value something is switched, and back: alarms, pumps, trips.',
      why: 'A point without a band chatters; one outside the range never comes.',
      how: 'Give each its value, its band, and what it is to do when power or signal are lost.',
      wrong: 'Choosing the band smaller than the noise, and the state on loss by what is quiet.',
    },
    trim: {
      what: 'Zero and span of the sensor and of its output, set right against something known.',
      why: 'A trim takes away an error of the device. It also hides every other error, until that changes.',
      how: 'Take the loop in manual, apply the value, let it be steady, trim, read back. The page leads gate by gate.',
      wrong: 'Trimming away what is wrong in wiring, range or vessel.',
    },
    check: {
      what: 'True values given, readings taken, and a verdict with its tolerance and its doubt.',
      why: 'That it was right is worth as much as what it was held against.',
      how: 'Say what is at hand, take the loop in manual, take each point up and down, give the loop back, sign.',
      wrong: 'Adjusting first and noting “as found” afterwards: then nobody knows how long it was off.',
    },
    'hand-over': HAND_OVER,
  },
  switch: {
    identify: IDENTIFY,
    wire: {
      what: 'Sensor, supply and input: which terminal sources, which sinks, and where the current goes.',
      why: 'A sensor and an input of one sort see nothing of each other, though every wire is right.',
      how: 'Type output and input as on the plates. The page says whether it can work, and the volts in each state.',
      wrong: 'Going by the lamp of the sensor: it shines for itself and not for the input.',
    },
    'switch-point': {
      what: 'At which distance the target is seen: of this metal, of this size, in this mounting.',
      why: 'The printed distance holds for mild steel and a large plate. Others are seen much later.',
      how: 'Type the target as it is; set the gap within the assured distance, and leave some for heat and play.',
      wrong: 'Setting it as near as it goes: then the target hits the face.',
    },
    check: {
      what: 'With and without a target: sensor’s lamp, input’s lamp, controller, each by itself.',
      why: 'The first that disagrees with the one before it says where the fault is.',
      how: 'Make the machine safe, bring the target, look at each witness, note volts and distance, sign.',
      wrong: 'Waving a spanner: it is larger and nearer than the target ever is.',
    },
    count: {
      what: 'What the point saw over time: counts, cycles, stops, and what was lost by them.',
      why: 'A state says how it is; only a record says how it goes.',
      how: 'Let the server record it, or bring a file; give the ideal cycle, and say of each stop what it was.',
      wrong: 'Counting bounces as pieces.',
    },
    'hand-over': HAND_OVER,
  },
}

/** Help for a stage of a family of points; undefined where there is none. */
export const stageHelp = (family: Family, stage: StageId): StageHelp | undefined => HELP[family][stage]
