import { describe, expect, it } from 'vitest'
import { RUN_SHEETS, type Family } from './run-sheets.ts'
import { stageHelp } from './stage-help.ts'

describe('the help of a stage', () => {
  it('is there for every stage of every run sheet: what, why, how, and what people get wrong', () => {
    for (const [family, stages] of Object.entries(RUN_SHEETS))
      for (const { id } of stages) {
        const help = stageHelp(family as Family, id)
        expect(Object.keys(help ?? {}), `${family} ${id}`).toEqual(['what', 'why', 'how', 'wrong'])
        for (const line of Object.values(help!)) expect(line).toMatch(/^.{25,180}\.$/)
      }
  })
})
