// Figures against their plans, and acts behind their gates.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  gateBefore,
  judgeStep,
  markedWords,
  marksOf,
  mayDo,
  near,
  sheetState,
  wantsWord,
  type Sheet,
  type StepDone,
  type StepMark,
} from './index.ts'

describe('a figure against its plan', () => {
  const plan = { against: 'Wall entered 2.4 mm', ...near(2.4, { good: 0.1, most: 0.4 }), else: 'Gauge again.' }
  it.each([
    [2.4, 'good'],
    [2.5, 'good'],
    [2.3, 'good'],
    [2.29, 'look'],
    [2.8, 'look'],
    [2, 'look'],
    [1.99, 'stop'],
    [3, 'stop'],
  ])('of %d mm is %s', (value, grade) => expect(judgeStep(plan, value, 'mm').grade).toBe(grade))
  it('says what it is held against, what was typed, and what follows', () => {
    expect(judgeStep(plan, 2.1, 'mm').says).toBe('Wall entered 2.4 mm; 2.1 mm typed. Gauge again.')
    expect(judgeStep(plan, 2.4, 'mm').says).toBe('')
  })
  it('of one bound only has that one', () => {
    const floor = { against: 'A gas needs at least 7 bar gauge here', floor: 7, else: 'Wait.' }
    expect([3, 7, 70].map((v) => judgeStep(floor, v, 'bar').grade)).toEqual(['stop', 'good', 'good'])
  })
  it('is any where there is no plan', () => expect(judgeStep(undefined, 1e9, 'mm').grade).toBe('good'))
  it('gets no better further away (property)', () => {
    const rank = { good: 0, look: 1, stop: 2 }
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5, noNaN: true }), fc.double({ min: 0, max: 5, noNaN: true }), (a, b) => {
        const [nearer, farther] = [Math.min(a, b), Math.max(a, b)]
        for (const side of [1, -1])
          expect(rank[judgeStep(plan, 2.4 + side * nearer, 'mm').grade]).toBeLessThanOrEqual(
            rank[judgeStep(plan, 2.4 + side * farther, 'mm').grade],
          )
      }),
    )
  })
})

describe('an act behind its gates', () => {
  const step = (id: string, more: object = {}) => ({ id, title: `Step ${id}`, says: '', ...more })
  const sheets: Sheet[] = [
    {
      id: 'a',
      title: 'Take the zero',
      steps: [step('told'), step('still'), step('averaged', { opens: 'zero' }), step('back')],
    },
    { id: 'b', title: 'Other work', steps: [step('told')] },
  ]
  const log = (...steps: string[]): StepDone[] => steps.map((s) => ({ sheet: 'a', run: 'r', step: s }))
  it('waits until every step before its own is done', () => {
    expect(gateBefore(sheets, [], 'zero')).toEqual({ sheet: 'Take the zero', step: 'Step told' })
    expect(gateBefore(sheets, log('told'), 'zero')).toEqual({ sheet: 'Take the zero', step: 'Step still' })
    expect(gateBefore(sheets, log('told', 'still'), 'zero')).toBeUndefined()
  })
  it('is shut again after its step, for what is done; not for putting it on record', () => {
    const after = log('told', 'still', 'averaged')
    expect(gateBefore(sheets, after, 'zero')).toEqual({ sheet: 'Take the zero', step: 'Step back' })
    expect(gateBefore(sheets, after, 'zero', true)).toBeUndefined()
    const ended = [...after, ...log('back')]
    expect(sheetState(sheets[0]!, ended).finished).toBe(true)
    expect(gateBefore(sheets, ended, 'zero')).toEqual({ sheet: 'Take the zero', step: 'Step told' })
    expect(gateBefore(sheets, ended, 'zero', true)).toBeUndefined()
    // A new run is begun: its own steps count, not those of the one before.
    const anew = [...ended, { sheet: 'a', run: 'r2', step: 'told' }]
    expect(gateBefore(sheets, anew, 'zero', true)).toEqual({ sheet: 'Take the zero', step: 'Step still' })
  })
  it('goes on after the last step done: what was added above it since is not asked of an older run', () => {
    const before = log('told', 'still', 'averaged')
    const grown: Sheet = { ...sheets[0]!, steps: [step('alerts'), ...sheets[0]!.steps] }
    expect(sheetState(grown, before).next?.id).toBe('back')
    expect(sheetState(grown, [...before, ...log('back')]).finished).toBe(true)
    expect(sheetState(grown, []).next?.id).toBe('alerts')
    expect(mayDo(grown, [], 'r', 'told')).toBe(false)
  })
  it('is not known to a point without a sheet for it', () => {
    expect(gateBefore(sheets, [], 'gas')).toBeUndefined()
    expect(gateBefore([], [], 'zero')).toBeUndefined()
  })
  it('never opens before as many steps are done as stand before it (property)', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('told', 'still', 'averaged', 'back'), { maxLength: 8 }), (wishes) => {
        const done: StepDone[] = []
        for (const wish of wishes) {
          if (!gateBefore(sheets, done, 'zero')) expect(done.map((d) => d.step)).toEqual(['told', 'still'])
          if (mayDo(sheets[0]!, done, 'r', wish)) done.push({ sheet: 'a', run: 'r', step: wish })
        }
      }),
    )
  })
})

describe('marks of a step', () => {
  const mark = (id: string, grade: StepMark['grade']): StepMark => ({
    id,
    grade,
    name: `Name ${id}`,
    means: '',
    act: '',
  })
  const marks = [mark('a', 'note'), mark('b', 'stop'), mark('c', 'look')]
  it('stand with the gravest first, in words too', () => {
    expect(marksOf(marks, ['a', 'c', 'b', 'a', 'gone']).map((m) => m.id)).toEqual(['b', 'c', 'a'])
    expect(markedWords(marks, ['a', 'b'])).toBe('Name b; name a')
    expect(markedWords(marks, [])).toBe('None')
  })
  it('say nothing where nothing is offered, or nothing was answered', () => {
    expect(markedWords(undefined, ['a'])).toBe('')
    expect(markedWords(marks, undefined)).toBe('')
  })
  it('want a word when one makes the work worthless', () => {
    expect(wantsWord(marks, ['a', 'c'])).toBe(false)
    expect(wantsWord(marks, ['b'])).toBe(true)
  })
})
