// Three lines for whoever asks why: what happens, what would be seen, and what people get wrong.
import type { FindingCode } from './codes.ts'
import type { Lesson, Lessons } from './lesson.ts'
import { FLOW_LESSONS } from './lessons-flow.ts'
import { LEVEL_LESSONS } from './lessons-level.ts'
import { RANGE_LESSONS } from './lessons-range.ts'

export type { Lesson } from './lesson.ts'

/** Lessons by code; what has none is explained by its own words. */
export const LESSONS: Lessons = {
  ...RANGE_LESSONS,
  ...LEVEL_LESSONS,
  ...FLOW_LESSONS,
  'lift-off-not-met': [
    'All parts in series share the supply; what they take at a high current is missing at the transmitter.',
    'It reads right low down and stands still higher up, as if the process had stopped.',
    'Testing at 4 mA only: there the parts take five times less.',
  ],
  'communication-resistance': [
    'A communicator speaks by small changes of current and hears them as volts across a resistance.',
    'Without resistance the supply swallows them: no device found, though the loop reads well.',
    'Clipping on straight across the supply instead of across the resistor or the transmitter.',
  ],
  'loop-open': [
    'A current needs a closed way; one loose core anywhere stops it everywhere.',
    'The meter reads 0 mA, and the whole supply stands across the gap.',
    'Measuring volts at the transmitter, seeing 24 V, and calling the loop good.',
  ],
  'two-loop-supplies': [
    'Two sources in series add up or cancel out.',
    'The current limits, or does not flow at all; something gets warm.',
    'Landing a two-wire transmitter with a supply of its own on a card that supplies the loop.',
  ],
  'supplies-in-parallel': [
    'No two supplies give quite the same volts: the higher one feeds the lower.',
    'All looks well until one of them fails and drags the other down.',
    'Taking two supplies side by side for redundancy: that needs a diode for each.',
  ],
  'no-loop-supply': [
    'A passive output is like a valve: it lets current through and pushes none.',
    'The display works and shows the value, the loop reads 0 mA.',
    'Believing the display: it has power of its own, the output circuit has not.',
  ],
  'pulse-no-counter': [
    'A pulse is nothing until something counts it.',
    'The total stands still while the flow is shown.',
    'Landing the pair on a spare terminal for later.',
  ],
  'pulse-not-seen': [
    'An open collector is a switch to its own minus: it makes no volts of its own.',
    'The counter stands still, or counts only when touched.',
    'Taking a passive pulse output for one that gives 24 V.',
  ],
  'interface-mismatch': [
    'The controller looks for its sensor where it is told to look.',
    'Sensor lost, though every wire is right.',
    'Changing the wires instead of the setting.',
  ],
  'feed-too-high': [
    'The output stage is a transistor with a limit of its own.',
    'Warm, stuck high, or dead after the first hour.',
    'Reading the instrument’s own supply range for that of its output: the plate has both.',
  ],
  'feed-too-low': [
    'The output stage needs some volts to work on, whatever the rest has.',
    'It reads 0 mA, or too low near the top.',
    'Counting the supply and forgetting the drop of barrier and shunt.',
  ],
  'reversed-polarity': [
    'Inside stands a diode: the wrong way round it blocks, or it bypasses the electronics.',
    '0 mA, or all the current that the supply gives.',
    'Trusting the colour: black is minus in one cable and output in another.',
  ],
  'beyond-compliance': [
    'An active output pushes only as hard as it can; its volts over the load give its highest current.',
    'Right low down, then it stands still.',
    'Adding an indicator later without adding up the load again.',
  ],
  'input-reversed': [
    'The current passes the resistor the other way, so its volts have the other sign.',
    'The card shows 0 % or a fault, though the meter in the loop reads well.',
    'Exchanging the wires at the transmitter instead of at the input.',
  ],
  'split-in-parallel': [
    'A current divides where two ways are open to it.',
    'Both receivers read low, and together they make the whole.',
    'Thinking of volts, which are the same in parallel: receivers of current go in series.',
  ],
  'current-lost': [
    'Somewhere a second way leads round the input: a wire, an earth, water.',
    'The input reads too low, by a share that stays about the same.',
    'Calibrating the error away, until the leak dries or grows.',
  ],
  'input-shorted': [
    'Copper beside a resistor takes all the current; no volts are left to read.',
    'The meter in series reads well, the controller sees nothing.',
    'Changing the card: the bridge sits on the terminals.',
  ],
  'receiver-not-in-loop': [
    'The current closes its way without passing the input.',
    'The transmitter works, the meter reads well, the controller shows nothing.',
    'Checking the current where the meter is, and not at the input.',
  ],
  'voltage-input-bare': [
    'An input for volts is almost an open circuit: the resistor makes the volts.',
    'The loop is dead, or the input shows its full scale.',
    'Switching the input type without moving the resistor.',
  ],
  'wrong-channel': [
    'Each channel has its own scale; the wires carry the value to where they end.',
    'Another point moves when this one should.',
    'Counting terminals from the wrong end of the strip.',
  ],
  'signal-outside-input': [
    'The resistor makes volts of the current; the input reads only those within its scale.',
    'It shows the end of the scale, or moves in coarse steps.',
    'Using 500 Ω, which makes 2 to 10 V, on an input for 1 to 5 V.',
  ],
  'channel-disagrees': [
    'The converter turns the signal into a value by its own two figures.',
    'Right at one end, more and more off towards the other.',
    'Changing the input type and leaving the scale: 0 to 20 mA is not 4 to 20 mA.',
  ],
  'supply-reversed': [
    'The electronics get their volts the wrong way round.',
    'Dead at best; the protection diode may short the supply.',
    'Taking the colour of the cable for the function.',
  ],
  'supply-too-high': [
    'Above its range the input stage breaks down.',
    'It may work for a while, warm, and then never again.',
    'Landing an instrument for 24 V on mains because the terminals are alike.',
  ],
  'supply-too-low': [
    'Below its range the electronics start, draw current, lose their volts and stop.',
    'It blinks, restarts, or reads well until it gets cold.',
    'Measuring the supply with nothing on it.',
  ],
  'supply-shorted': [
    'Plus and minus meet with only copper between.',
    'The supply hums, its lamp goes out, or a fuse blows.',
    'Looking for the fault in the device: it is between two terminals.',
  ],
  'fuse-would-blow': [
    'A fuse opens when more than its rating flows.',
    '0 mA, and the whole supply across the fuse terminal.',
    'Putting in a larger one.',
  ],
  'no-device-power': [
    'A four-wire device lives on a supply of its own; the loop cannot feed it.',
    'Its display is dark.',
    'Wiring the signal first and calling it done.',
  ],
  'cores-joined': [
    'Two cores that touch are one.',
    'The input sees nothing, or the supply is loaded for no reason.',
    'Looking at the ends: the bridge is in the box between.',
  ],
  'on-test-terminal': [
    'The test terminal lies behind a diode, for a meter that takes no volts.',
    'The loop works, and a meter put on the terminal reads nothing.',
    'Taking T for a spare minus.',
  ],
  'conductor-to-nothing': [
    'A live end that is not landed touches what it likes.',
    'Now and then a fuse blows, when somebody moves the cable.',
    'Leaving it for later with a piece of tape.',
  ],
  'colour-against-function': [
    'A colour is a word, and its meaning hangs on the convention.',
    'Nothing, until the next person trusts it.',
    'Believing that black is always minus.',
  ],
  'colour-changes-meaning': [
    'Two cables by two conventions meet in one box.',
    'Everything works, and the drawing seems wrong.',
    'Following the colour across the joint instead of the ferrule.',
  ],
  'mains-on-dc': [
    'Mains goes through electronics made for 24 V and on along every core they touch.',
    'A bang, or a live case far away.',
    'Measuring with the meter on DC: it shows nothing of it.',
  ],
  'mains-on-earth': [
    'The case of everything that is earthed there becomes live.',
    'The protective device trips, if there is one.',
    'Taking green for a signal.',
  ],
  'mains-shorted': [
    'Live and neutral meet.',
    'The breaker trips at once.',
    'Switching on again to see whether it holds.',
  ],
  'live-neutral-exchanged': [
    'Switch and fuse stand in the neutral.',
    'It works; switched off it is still live inside.',
    'Proving dead between two terminals only: prove each against earth.',
  ],
  'no-protective-earth': [
    'A fault inside has no way to earth but through a person.',
    'Nothing, until somebody touches the case.',
    'Thinking that the cable shield will do.',
  ],
  'shield-earthed-twice': [
    'Two earths are never at quite the same volts, so a current flows along the shield.',
    'Hum and drift, worst when a motor runs.',
    'Earthing once more because it did not help the first time.',
  ],
  'shield-not-earthed': [
    'What the shield catches has nowhere to go and couples into the cores.',
    'Noise that comes and goes with the weather of the works.',
    'Cutting it back at both ends for tidiness.',
  ],
  'bus-swapped': [
    'A receiver looks at the difference of the two lines; exchanged it reads every bit turned round.',
    'No answer at all; the others on the bus may be disturbed too.',
    'Going by A and B: makers name them either way.',
  ],
  'bus-unterminated': [
    'A pulse comes back from an open end and meets the next one.',
    'Works on the bench, fails on the long cable or at a higher speed.',
    'Putting the resistor at the controller and nowhere else.',
  ],
  'bus-terminated-often': [
    'Every further resistor pulls the two lines together.',
    'Weak signals: the farthest stations drop out.',
    'Leaving the switch on at every device, as it came.',
  ],
  'bus-no-common': [
    'The lines may only be so far from each station’s own zero.',
    'Works until a motor starts or the sun warms the hut.',
    'Trusting that a pair is enough because it has two wires.',
  ],
  'switch-cannot-work': [
    'The signal wire can be joined to one pole only, and that is where the input already ends.',
    'The sensor’s lamp changes, the input’s never does.',
    'Changing NO for NC: that turns the logic round and not the pole.',
  ],
  'switch-overloaded': [
    'The output is a small transistor, not a relay contact.',
    'It cuts out and tries again, or it is stuck on for good.',
    'Counting the lamp warm: cold it takes ten times as much.',
  ],
  'switch-undefined': [
    'Between surely off and surely on the input may read either.',
    'It flickers, more so on a cold morning.',
    'Mending it with a filter in the program.',
  ],
  'switch-inverted': [
    'Here the resistor turns the input on and the sensor turns it off.',
    'The input is on when nothing is there.',
    'Forgetting that a broken wire then reads like a sensor that conducts.',
  ],
  'two-wire-starved': [
    'With two wires the sensor lives on the current that it switches.',
    'It drops out or flickers once the input takes too little.',
    'Taking a card made to draw little for the better one.',
  ],
  'inrush-high': [
    'A cold filament or an empty capacitor is nearly a short for some milliseconds.',
    'The lamp flashes and goes out, again and again.',
    'Reading the watts on the label and nothing else.',
  ],
  'coil-voltage': [
    'A coil picks up from 80 % of its volts and bears 110 %.',
    'It chatters, or it gets hot.',
    'Putting a 12 V relay on 24 V because it was at hand.',
  ],
}

/** The three lines of a finding: its lesson, else its own words and what would be accepted. */
export const lessonOf = (
  f: { readonly code: FindingCode; readonly why: string; readonly sure: string },
  accepted: string,
): Lesson =>
  LESSONS[f.code] ?? [
    f.why,
    f.sure,
    accepted ? `What would be accepted: ${accepted}` : 'It stays until that is mended.',
  ]
