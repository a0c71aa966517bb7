// Words for what a device refuses, and for what to try when nothing answers.
import type { ProbeLine } from '@calm-loop/contract'
import { CODE } from '@calm-loop/core/hart'

const MEANS: Readonly<Record<number, string>> = {
  [CODE.invalidSelection]: 'it does not have what was chosen',
  [CODE.tooLarge]: 'the value is too large',
  [CODE.tooSmall]: 'the value is too small',
  [CODE.tooFewBytes]: 'it missed bytes',
  [CODE.writeProtected]: 'it is write-protected: its switch or passcode is on the device',
  [CODE.lowerTooHigh]: 'the lower value is too high, or its state does not allow it now',
  [CODE.lowerTooLow]: 'the lower value is too low',
  [CODE.upperTooHigh]: 'the upper value is too high, or the loop current is off',
  [CODE.upperTooLow]: 'the upper value is too low',
  [CODE.bothOut]: 'both values lie outside its limits',
  [CODE.noSpan]: 'there is no span between the values',
  [CODE.busy]: 'it stayed busy',
  [CODE.unknownCommand]: 'it does not know the command',
}
export const refusalWords = (code: number) => `The device refuses: ${MEANS[code] ?? `code ${code}`}.`

/** The next three things, by what was heard. */
export function nextThings(outcomes: readonly ProbeLine['outcome'][], circuit: readonly string[] = []): string[] {
  if (outcomes.includes('noise'))
    return [
      'Bytes come and make no frame: the clips sit across something noisy. Move them to the transmitter’s terminals.',
      'Set the modem to 1200 bit/s, odd parity.',
      'Look for a second modem on the same loop, and take it off.',
    ]
  if (outcomes.includes('others'))
    return [
      'Another master speaks on this loop: wait for it, or end its work.',
      'Ask all addresses up to 63: the device may have another than those asked.',
      'A device in burst mode answers more slowly: ask again.',
    ]
  return [
    circuit[0] ??
      'Resistance between the clips: 230 to 1100 Ω. Below that a supply shorts the signal; put 250 Ω in series.',
    circuit[1] ??
      'Power at the device: measure the volts at its terminals against its lift-off, and look at the polarity.',
    'Address, port, or the other master: ask addresses up to 63, take another port of the list, end other tools.',
  ]
}
