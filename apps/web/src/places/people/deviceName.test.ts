import fc from 'fast-check'
import { expect, it } from 'vitest'
import { deviceName } from './deviceName.ts'

it.each([
  ['Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0', 'Linux x86_64, Firefox 128'],
  ['Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/130.0.0.0', 'Linux, Chrome 130'],
  ['curl/8.5.0', 'unknown browser'],
  ['', 'unknown browser'],
  ['(', 'unknown browser'],
  ['something (Tablet)', 'Tablet'],
])('%s', (userAgent, name) => {
  expect(deviceName(userAgent)).toBe(name)
})
it('has a name for whatever a browser says', () => {
  fc.assert(fc.property(fc.string(), (text) => void expect(deviceName(text)).not.toBe('')))
})
