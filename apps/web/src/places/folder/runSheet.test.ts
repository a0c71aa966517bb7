import type { Check } from '@calm-loop/contract'
import { kindOf, KINDS } from '@calm-loop/core/kinds'
import { finding } from '@calm-loop/core/findings'
import { describe, expect, it } from 'vitest'
import { checkLine, entriesLine, handOverLine } from './runSheet.ts'

type Role = Check['signatures'][number]['role']
type Standing = Check['signatures'][number]['standing']
const check = (roles: readonly Role[], standing: Standing = 'sealed', imported = false) =>
  ({ imported, signatures: roles.map((role) => ({ role, standing })) }) as unknown as Check
const open = { points: [0, 50, 100].map(() => ({})), readings: [0, 1, 1].map((pointIndex) => ({ pointIndex })) }

describe('the line of the check', () => {
  it.each([
    ['nothing', undefined, 'open', 'not begun'],
    ['one not signed', check([]), 'done', 'not signed'],
    ['one signed', check(['performed']), 'done', 'signed'],
    ['one countersigned', check(['performed', 'reviewed']), 'done', 'signed'],
    ['one whose seal is broken', check(['performed'], 'broken'), 'stop', 'seal broken'],
    ['one from elsewhere', check(['performed'], 'claimed', true), 'look', 'from elsewhere, not accepted'],
  ] as const)('after %s', (_, latest, mark, words) => expect(checkLine(latest, undefined)).toEqual({ mark, words }))
  it('counts each point once, however often it was read', () =>
    expect(checkLine(check([]), open as unknown as Check)).toEqual({ mark: 'open', words: '2 of 3 read' }))
  it('says that a seal is broken also while another is taken', () =>
    expect(checkLine(check(['performed'], 'broken'), open as unknown as Check).mark).toBe('stop'))
})

describe('the line of the hand-over', () => {
  it.each([
    ['nothing', undefined, 'open', 'not yet'],
    ['one not signed', check([]), 'open', 'not yet'],
    ['one signed', check(['performed']), 'open', 'awaits review'],
    ['one countersigned', check(['performed', 'reviewed']), 'done', 'countersigned'],
    ['a broken seal', check(['performed', 'reviewed'], 'broken'), 'stop', 'seal broken'],
    ['one accepted', check(['performed', 'accepted'], 'sealed', true), 'done', 'from elsewhere, accepted'],
    ['one not accepted', check(['performed'], 'claimed', true), 'open', 'from elsewhere, not accepted'],
  ] as const)('after %s', (_, latest, mark, words) => expect(handOverLine(latest)).toEqual({ mark, words }))
})

describe('the line of a stage with entries', () => {
  const kind = kindOf('pressure')
  const of = { kind, stage: 'range' }
  const found = (grade: 'stop' | 'look' | 'note', field = 'urv') =>
    finding({ grade, code: 'root-twice', fields: [field], what: 'w', why: 'y', action: 'a', sure: 's' })
  it.each([
    ['nothing', [], [], 'done', 'done'],
    ['a note', [], [found('note')], 'done', 'done'],
    ['something to look at', [], [found('look')], 'look', 'look'],
    ['something missing', ['urv'], [found('look')], 'open', '1 to enter'],
    ['a stop, first of all', ['urv', 'lrv'], [found('look'), found('stop')], 'stop', 'stop'],
    ['a stop of another stage', [], [found('stop', 'supply')], 'done', 'done'],
  ] as const)('with %s', (_, missing, findings, mark, words) =>
    expect(entriesLine(of, missing, findings)).toEqual({ mark, words }),
  )
  it.each(KINDS.map((k) => k.id))('of %s shows a stop at the stage of its field', (id) => {
    const own = kindOf(id)
    for (const field of own.fields) {
      const line = entriesLine({ kind: own, stage: field.stage }, [], [found('stop', field.key)])
      expect(line.mark).toBe('stop')
    }
  })
})
