import { describe, expect, it } from 'vitest'
import { fits, worthShowing } from './fits.ts'

describe('what explains readings', () => {
  it.each([
    [0, 'fits all readings'],
    [1.99, 'fits all readings'],
    [2, 'fits roughly'],
    [11.9, 'fits roughly'],
    [12, 'does not fit'],
  ])('with a misfit of %s %s', (misfit, says) => expect(fits(misfit)).toBe(says))
  it('is the best four groups, and none that explains nothing', () => {
    const groups = [1, 3, 50, 399, 399.5].map((misfit) => [{ misfit }, { misfit }])
    expect(worthShowing(groups)).toEqual(groups.slice(0, 4))
    expect(worthShowing([[{ misfit: 400 }], []])).toEqual([])
  })
})
