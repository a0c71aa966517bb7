// The run sheets: the stages of the work on a loop, in their order, for both families of point.

export type StageId =
  'identify' | 'wire' | 'point' | 'range' | 'switch-point' | 'trim' | 'check' | 'count' | 'hand-over'
/** How a point tells what it sees: by a current in proportion, or by one of two states. */
export type Family = 'current' | 'switch'

interface Stage {
  readonly id: StageId
  readonly name: string
}
/** Stages of the run sheet that exist so far, in the order of work. */
export const RUN_SHEETS: Readonly<Record<Family, readonly Stage[]>> = {
  current: [
    { id: 'identify', name: 'Identify' },
    { id: 'wire', name: 'Wire' },
    { id: 'point', name: 'Point' },
    { id: 'range', name: 'Range' },
    { id: 'switch-point', name: 'Switch points' },
    { id: 'trim', name: 'Trim' },
    { id: 'check', name: 'Check' },
    { id: 'hand-over', name: 'Hand over' },
  ],
  switch: [
    { id: 'identify', name: 'Identify' },
    { id: 'wire', name: 'Wire' },
    { id: 'switch-point', name: 'Switch point' },
    { id: 'check', name: 'Check' },
    { id: 'count', name: 'Count' },
    { id: 'hand-over', name: 'Hand over' },
  ],
}
