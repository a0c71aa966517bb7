// The end of the shift on its page: how things stand, handed over, and read by the next.
import { describe, expect, it } from 'vitest'
import { gone, newLoop, pagesFor, press, read, see, type, visit } from './visit.ts'

const shift = () => visit('/shift', 'The shift')

describe('the shift, for a technician', () => {
  pagesFor('ailsa')
  it('says what was done and who has which piece, and is handed over as it stands', async () => {
    await newLoop('LT-7691', 'level-from-above')
    await shift()
    await see('[data-done="LT-7691"]', /Ailsa Fenn .*created the loop/)
    expect((await see('[data-test="shift-lanes"]')).getAttribute('aria-label')).toContain('LT-7691')
    await read('Pressure calibrator C1 PC-0311')
    await read('Look into the gland of the head')
    await type(await see('.give textarea'), 'The gate of the bay is stuck.')
    await press('Hand the shift over')
    await see('blockquote', 'The gate of the bay is stuck.')
    await read('it stays as it stood then')
    await read('read by nobody yet')
    await gone('.give')
    await press('How things stand now')
    await see('.give')
  })
})

describe('the shift, for the next', () => {
  pagesFor('magnus')
  it('is read, and that is said', async () => {
    await shift()
    await press(/^Ailsa Fenn, /)
    await see('blockquote', 'The gate of the bay is stuck.')
    await press('I have read it')
    await read('read by Magnus Orrin')
    expect(document.querySelector('.give')).toBeNull()
  })
})
