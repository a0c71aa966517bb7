// Parts of the level and electrode pages by themselves: the file of a strapping table, the line of an electrode.
import { entryFrom } from '@calm-loop/core/quantity'
import type { Field } from '@calm-loop/core/kinds'
import { vesselFields } from '../../../packages/core/src/kinds/vessel/fields.ts'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { termsFor, walk } from '../../../packages/core/src/procedure/procedure.fixture.ts'
import ProbeDrawing from '../src/kinds/level-in-contact/ProbeDrawing.vue'
import ElectrodeDrawing from '../src/kinds/ph/PointDrawing.vue'
import { useFolder } from '../src/stores/folder.ts'
import StrappingField from '../src/vessel/StrappingField.vue'
import { open, parts, press, settle, show, SIGNED, textOf } from './panel.ts'

parts()

describe('the file of a strapping table', () => {
  const field = vesselFields.find((f) => f.key === 'strapping') as Field
  async function pick(text: string, typed = '') {
    open({ kind: 'level-from-above', entries: demoEntries('level-from-above') })
    const part = show(StrappingField, { field, typed })
    const input = part.find('input[type=file]')
    Object.defineProperty(input.element, 'files', { value: [new File([text], 'tank 7.csv')], configurable: true })
    await input.trigger('change')
    await settle()
    await settle()
    return part
  }
  it('is taken whole, in the units of its heading', async () => {
    const part = await pick('level (cm);volume (l)\n0;0\n10;250\n20;600')
    expect(part.emitted('set')).toEqual([[{ typed: '0 0; 100 0.25; 200 0.6' }]])
    expect(textOf(part)).toContain('3 rows taken from “tank 7.csv”, read in cm and l.')
  })
  it('with one wrong line gives nothing, names the line, and what stood there stays', async () => {
    const part = await pick('0;0\n10;250\n5;600', '0 0; 100 1')
    expect(part.emitted('set')).toBeUndefined()
    expect(textOf(part)).toContain('“tank 7.csv” was not taken; what stood here stays.')
    expect(textOf(part)).toContain('Line 3: The level does not rise: 5 after line 2.')
    expect(textOf(part)).toContain('2 rows, 0 to 100 mm, up to 1 m³')
  })
  it('of ten thousand rows is too long, and says what would do', async () => {
    const part = await pick(Array.from({ length: 10_000 }, (_, i) => `${i};${i}`).join('\n'))
    expect(part.emitted('set')).toBeUndefined()
    expect(textOf(part)).toContain('take every 10th')
  })
})

describe('the line of an electrode', () => {
  const run = walk('ph-calibration', termsFor('ph-calibration'))
  const log = run.events.map((event, i) => ({
    what: 'procedure' as const,
    run: 'r',
    event,
    id: `p${i}`,
    practice: false,
    ...SIGNED,
  }))
  it('without a calibration is that of the entries, and says so', () => {
    open({ kind: 'ph', entries: demoEntries('ph') })
    const part = show(ElectrodeDrawing)
    expect(textOf(part)).toContain('No calibration is on record: the line is that of the entries.')
    expect(part.find('svg').attributes('aria-label')).toContain('100.0 % of the ideal slope')
  })
  it('shows each buffer where it was read, and the entries follow with one press', async () => {
    open({
      kind: 'ph',
      entries: { ...demoEntries('ph'), slopePercent: entryFrom('91 %', { quantity: 'ratio', unit: '%' }) },
      workLog: log,
    })
    const part = show(ElectrodeDrawing)
    expect(part.findAll('circle.point')).toHaveLength(3)
    expect(textOf(part)).toContain('The entries hold another slope or offset.')
    const folder = useFolder()
    await press(part, 'take-calibration')
    const { slopePercent, electrodeOffset } = folder.entries
    const said = part.find('[data-test="last-calibration"]').text()
    expect(said).toContain(slopePercent!.typed)
    expect(said).toContain(electrodeOffset!.typed)
    expect(said).not.toContain('another slope')
  })
  it('of what was practised is never offered to the record', () => {
    open({ kind: 'ph', entries: demoEntries('ph'), workLog: log.map((e) => ({ ...e, practice: true })) })
    const part = show(ElectrodeDrawing)
    expect(part.find('[data-test="take-calibration"]').exists()).toBe(false)
    expect(part.findAll('circle.point')).toHaveLength(0)
  })
})

describe('the drawing of a probe', () => {
  const labels = (changed: Record<string, string>) => {
    open({ kind: 'level-in-contact', entries: demoEntries('level-in-contact', changed) })
    const part = show(ProbeDrawing)
    return { part, stops: part.findAll('text.stop').map((t) => t.text()) }
  }
  it('marks the end of the current that lies in a dead zone, and no other', () => {
    expect(labels({}).stops).toEqual([])
    expect(labels({ lrv: '-100 mm' }).stops).toEqual([expect.stringContaining('4 mA at')])
    expect(labels({ urv: '2200 mm' }).stops).toEqual([expect.stringContaining('20 mA at')])
  })
  it('keeps the words of every side apart, whatever the lengths', () => {
    for (const changed of [
      { probeLength: '1 mm' },
      { emptyDistance: '2499 mm', fullDistance: '2490 mm' },
      { topDeadZone: '0 mm', bottomDeadZone: '0 mm', faceAbove: '0 mm' },
      { tankDepth: '60 m' },
      { mounting: 'standpipe', head: 'off the process' },
    ] as Record<string, string>[]) {
      const { part } = labels(changed)
      const sides = new Map<string, number[]>()
      for (const text of part.findAll('g > text')) {
        const { x, y } = text.attributes()
        sides.set(x!, [...(sides.get(x!) ?? []), Number(y)])
        expect(Number(y)).toBeLessThanOrEqual(440)
      }
      for (const heights of sides.values()) {
        const sorted = [...heights].sort((a, b) => a - b)
        sorted.slice(1).forEach((y, i) => expect(y - sorted[i]!).toBeGreaterThanOrEqual(17.9))
      }
    }
  })
})
