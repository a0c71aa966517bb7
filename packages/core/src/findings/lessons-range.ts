// Lessons of range, receiver, conductors and discrete points.
import type { Lessons } from './lesson.ts'

export const RANGE_LESSONS = {
  'range-zero-span': [
    'The current says where the value lies between two ends; with equal ends it says nothing.',
    'The output stands at one end, or jumps between 4 and 20 mA.',
    'Typing the same figure twice while thinking of zero and span.',
  ],
  'receiver-zero-span': [
    'The controller spreads 4 to 20 mA over its scale; a scale of no width has one value.',
    'The screen shows the same figure whatever the current is.',
    'Leaving both ends at 0 after a new channel was made.',
  ],
  'counts-zero-span': [
    'The card turns a current into counts; between two equal counts there is nothing to scale.',
    'The raw value moves and the scaled one stands still, or the channel faults.',
    'Taking the counts of one end for both, or those of another card.',
  ],
  'tolerance-not-positive': [
    'A tolerance of nothing is met by no instrument and no meter.',
    'Every check fails, whatever was measured.',
    'Typing a sign, or leaving the per cent of a figure that was in units.',
  ],
  'damping-negative': [
    'Damping averages over time that has passed; there is none before it.',
    'The device refuses it, or keeps the value it had.',
    'A slipped minus in front of a figure copied from a list.',
  ],
  'figure-unusual': [
    'A figure is far from what such loops have, which is more often a slip than a rare plant.',
    'All that is reckoned from it is off by the same factor.',
    'Millimetres for metres, bar for mbar, or a lost decimal point.',
  ],
  'ends-reversed': [
    'The transmitter rises where the controller is scaled to fall.',
    'The screen is right at mid range only, and runs the wrong way from there.',
    'Turning round one end to put right a valve, and forgetting the other.',
  ],
  'ends-disagree': [
    'The same current means one value at the transmitter and another at the controller.',
    'Display and screen differ by a factor, or by a step that grows along the range.',
    'Changing a range in the field and leaving the controller for tomorrow.',
  ],
  'channel-disagrees': [
    'A converter between both ends has a scale of its own; each factor is passed on.',
    'Each device seems right by itself, and the screen is off all the same.',
    'Checking the transmitter and the controller, and never what stands between.',
  ],
  'indicator-disagrees': [
    'A local indicator shows the loop current through its own scale.',
    'The operator at the pipe and the one at the screen read two values.',
    'Changing the range and leaving the indicator as it was set years ago.',
  ],
  'fault-current-in-range': [
    'A current that also means a measurement cannot tell that the device is ill.',
    'A broken sensor looks like a process that stands still.',
    'Choosing “hold the last value” because alarms annoy.',
  ],
  'cutoff-negative': [
    'Below the cutoff the flow is shown as nothing; a cutoff below nothing never acts.',
    'Noise about zero is counted as flow, both ways.',
    'Entering the cutoff as a difference from zero, with its sign.',
  ],
  'cutoff-high': [
    'All flow below the cutoff is shown and totalled as none.',
    'Small flows vanish: the tank fills while the screen says nothing runs.',
    'Raising the cutoff to silence a zero that ought to be mended.',
  ],
  'cutoff-low': [
    'Under the root a small difference of pressure becomes a large flow, noise and all.',
    'The flow dances about zero with the valve shut, and the total creeps.',
    'Judging the cutoff by the flow’s per cent and not by that of the pressure.',
  ],
  'cutoff-below-least': [
    'Below its least flow a meter’s error has no limit.',
    'The last per cents are shown with two decimals and mean nothing.',
    'Trusting digits because they are there.',
  ],
  'range-beyond-sensor': [
    'The sensor measures no farther than its limits; beyond them the current stands.',
    'It reads well until the limit and then no longer moves.',
    'Ranging for the process without a look at the plate of the sensor.',
  ],
  'sensor-limits-reversed': [
    'The lower limit stands above the upper one: one of them was typed in the other’s place.',
    'Every range seems to lie outside of the sensor.',
    'Copying limits of a vacuum sensor without their signs.',
  ],
  'process-range-reversed': [
    'The lowest value of the process lies above its highest.',
    'Any range seems to miss the process.',
    'Exchanging normal and highest, or losing a minus sign.',
  ],
  'range-inside-process': [
    'The process goes where the range does not: there the current stands at its end.',
    'The trend is flat at the top or the bottom while the plant moves on.',
    'Ranging for the usual day and not for filling, flushing and trouble.',
  ],
  'bus-lines-joined': [
    'A bus tells ones from zeroes by the volts between its lines; joined there are none.',
    'No station on the whole bus answers, not only this one.',
    'Looking at the station, where the joint is in a box or a plug.',
  ],
  'bus-wrong-line': [
    'One line of the pair carries nothing to the station, the other carries both.',
    'This station is silent, its neighbours are well.',
    'Trusting colours across two makes of cable.',
  ],
  'device-unknown': [
    'Of a device that is not described here nobody can say which terminal does what.',
    'The wiring is drawn, and nothing of it is judged at that device.',
    'Taking a device of like name for the one on the plate.',
  ],
  'bus-unconnected': [
    'A station hears the bus by two wires from its neighbour; it has none.',
    'It never answers, and the bus is well without it.',
    'Landing the cable’s shield and forgetting the pair.',
  ],
  'bus-half': [
    'With one wire the station hears half of each signal against an earth that floats.',
    'It answers now and then, best when the neighbour is off.',
    'Looking for a wrong address, since it does answer sometimes.',
  ],
  'switch-not-whole': [
    'A discrete point needs a sensor, a supply and an input; one of them is not in the drawing.',
    'Nothing can be said of volts, currents and states.',
    'Wiring the sensor and leaving the supply for the next shift.',
  ],
  'coil-without-diode': [
    'A coil that is switched off throws hundreds of volts back at what switched it.',
    'The output dies after weeks, not at once.',
    'Taking the first good hour for a proof.',
  ],
  'supply-outside': [
    'Outside its supply range a sensor may switch, half switch or burn.',
    'The lamp glimmers, or the point flickers with the load of other devices.',
    'Reading the supply at the cabinet and not at the end of the cable.',
  ],
  'supply-range-reversed': [
    'The lowest supply is entered above the highest.',
    'Any supply seems wrong for it.',
    'Typing the plate’s 10…30 V from right to left.',
  ],
  'thresholds-reversed': [
    'An input is off below one voltage and on above a higher one; between them it may be either.',
    'No state seems sure.',
    'Copying the two figures in the order of the data sheet, whatever it is.',
  ],
  'inrush-unknown': [
    'A lamp or a capacitor draws many times its current for the first moment.',
    'The output trips or wears out though the steady current is within.',
    'Judging a load by its rated current alone.',
  ],
  'point-name': [
    'The controller takes names of some length and letters only.',
    'The import is refused, or the name is cut and two points become one.',
    'Using a blank or a hyphen, as on the drawing.',
  ],
  'beyond-assured': [
    'Between the rated and the assured distance a sensor may switch, or not, by its make and the heat.',
    'It works on the bench and misses in the cold, or after the next sensor is fitted.',
    'Setting the gap by the printed sensing distance.',
  ],
  'mounted-inside': [
    'A target cannot pass behind the face of the sensor.',
    'The computed distances make no sense.',
    'Measuring from the lock nut instead of from the face.',
  ],
  'target-small': [
    'A small target disturbs the field less: it is seen later than the printed distance.',
    'Screws and edges are missed, plates are seen.',
    'Proving with a hand or a spanner, which are larger than the target.',
  ],
  'long-not-longer': [
    'A cycle counts as long above a time that must lie above the ideal one.',
    'Each cycle is called long, and the count of losses means nothing.',
    'Entering seconds for one and a rate for the other.',
  ],
} as const satisfies Lessons
