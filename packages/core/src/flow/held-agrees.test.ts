import { expect, it } from 'vitest'
import { heldAgrees } from './held-agrees.ts'

it.each([
  ['7.4 mm', '7.4 mm', true],
  ['7.4 mm', '7.40', true],
  ['7.4 mm', '7,4 mm', true],
  ['7.4 mm', '7.0 mm', false],
  ['7.4 mm', '7.4 cm', false],
  ['72.3841', '72.384', false],
  ['−1.5 °C', '-1.5', true],
  ['follows the flow', 'Follows the flow', true],
  ['follows the flow', 'both ways', false],
  ['4.5 in', '114.3 mm', true],
  ['4.5 in', '114.8 mm', false],
  ['7.05 mm', '0 in', false],
  ['0.277559 in', '7.05 mm', true],
  ['108 °F', '60 K', true],
  ['108 °F', '42.2 °C', true],
  ['108 °F', '61 K', false],
  ['20 °C', '20 bar', false],
  ['7.4 mm', '', false],
  ['', '', true],
])('what was to be keyed as “%s” and is shown as “%s” agrees: %s', (text, held, agrees) =>
  expect(heldAgrees(text, held)).toBe(agrees),
)
