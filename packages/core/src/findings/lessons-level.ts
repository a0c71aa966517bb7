// Lessons of level and temperature.
import type { Lessons } from './lesson.ts'

export const LEVEL_LESSONS = {
  'length-negative': [
    'A length is counted from a face or an edge outwards; there is none below nothing.',
    'The drawing cannot be made, or stands on its head.',
    'Typing a depth as a negative height.',
  ],
  'full-beyond-empty': [
    'From above, a full tank is near and an empty one is far.',
    'The level falls as the tank fills.',
    'Entering heights of the liquid where distances from the face are asked for.',
  ],
  'full-inside-blanking': [
    'So near to the face the device cannot tell its own ringing from an echo.',
    'Near full the reading jumps or stands, just where the overflow alarm should come.',
    'Shortening the blanking in the menu: the ringing stays as it is.',
  ],
  'current-inside-blanking': [
    'An end of the current lies where the device measures nothing.',
    'The current never reaches that end; an alarm set there never comes.',
    'Ranging to the brim because the tank can be filled to it.',
  ],
  'range-outside-tank': [
    'No level can stand at that point.',
    'Part of the current is never used, and a fault may look like a level.',
    'Measuring from the flange where the face is meant, or in other units.',
  ],
  'full-above-overflow': [
    'The liquid runs over before it is called full.',
    'The tank overflows at 95 % on the screen.',
    'Taking the wall’s height for the overflow’s.',
  ],
  'face-below-overflow': [
    'Before it overflows the liquid reaches the face of the device.',
    'The reading freezes or jumps when it is most needed; the device may drown.',
    'Mounting it low to come out of the blanking.',
  ],
  'display-against-current': [
    'The display counts one way and the current the other.',
    'Field and control room speak of two tanks.',
    'Turning round one of them to answer a complaint about the other.',
  ],
  'reverse-acting': [
    'The current falls while the level rises.',
    'A broken wire, 0 mA, then looks like more than full.',
    'Reversing it by accident, by entering distances as levels.',
  ],
  'deeper-than-shape': [
    'A lying cylinder or a ball is no higher than it is wide.',
    'The volume of the last metres makes no sense.',
    'Entering the length of the tank for its diameter.',
  ],
  'fixed-temperature': [
    'Sound runs faster in warm air: 0.17 % for each degree.',
    'Summer and winter differ by centimetres at the same dip.',
    'Trimming the error away in July, and again in January.',
  ],
  'probe-no-span': [
    'The zones at both ends of a probe measure nothing; between them nothing is left.',
    'The current jumps from one end to the other.',
    'Cutting the probe to the vessel without a look at the zones.',
  ],
  'probe-dead-zone': [
    'In its dead zones a probe’s echo cannot be told from its ends.',
    'Near an end the reading sticks and then jumps.',
    'Ranging over the whole probe because it is that long.',
  ],
  'current-in-lower-zone': [
    'That end of the current lies where the probe’s own end echoes.',
    'The last of the tank reads as if it stood still.',
    'Setting 4 mA at the bottom of the vessel instead of above the zone.',
  ],
  'current-in-upper-zone': [
    'That end of the current lies where the process fitting echoes.',
    'Near full the reading sticks: the high alarm comes late or never.',
    'Setting 20 mA at the flange.',
  ],
  'probe-length-cut': [
    'The device finds the end of the probe by the length that it was told.',
    'A false end echo is taken for liquid, or a low level for a lost one.',
    'Cutting the probe and leaving the length in the menu.',
  ],
  'zone-inside-weight': [
    'The weight at the end of a cable measures nothing.',
    'Below it the level stands still.',
    'Copying the zone of a rod for a cable.',
  ],
  'zone-unusually-short': [
    'Such a zone is shorter than what probes of the kind have.',
    'Readings inside it look good on the bench and fail with foam or coating.',
    'Entering the zone of water for an oil: it grows as the echo weakens.',
  ],
  'probe-echo-weak': [
    'Little comes back from a liquid that hardly bends the field.',
    'The level is lost in turbulence, and the end of the probe shines through.',
    'Raising the sensitivity until noise is taken for a level.',
  ],
  'beam-angle-impossible': [
    'A beam has an angle between a line and a half sphere.',
    'Nothing can be said of what it meets.',
    'Entering the full angle where the half is meant, or per cent.',
  ],
  'beam-on-wall': [
    'The beam widens on its way and meets the wall or a fitting before the liquid.',
    'A level that is too high and stands still, or jumps back to the same value.',
    'Mapping it out when the tank is half full: what lies below stays unseen.',
  ],
  'beam-in-inlet': [
    'The falling stream is nearer than the liquid and echoes as well.',
    'The level jumps whenever the tank is filled.',
    'Filtering it away by damping: then the filling is seen too late.',
  ],
  'beam-on-nozzle': [
    'The lower edge of the nozzle stands in the beam.',
    'A fixed echo a little below the flange covers the high levels.',
    'Choosing the nozzle by the thread and not by the beam.',
  ],
  'nozzle-beyond-blanking': [
    'The nozzle’s end lies beyond the blanking, so its echo counts as a level.',
    'The tank is full for ever, or whenever the echo of the liquid is weak.',
    'Leaving the blanking as it came from the works.',
  ],
  'vapour-in-path': [
    'Vapour slows waves, so the way seems longer and the level lower.',
    'The error grows with warmth and with an emptier tank.',
    'Trimming it at one level on one day.',
  ],
  'damping-lags-filling': [
    'A damped reading follows the level by its time constant and more.',
    'While it is filled the tank is fuller than the screen says.',
    'Damping a jumping echo instead of finding what makes it jump.',
  ],
  'echo-lost-empty': [
    'Without an echo the device says what it was told to say; here, that the tank is empty.',
    'The pump fills a full tank.',
    'Choosing it because an alarm in the night is worse.',
  ],
  'temperature-not-compensated': [
    'The glass gives more millivolts for each pH the warmer it is: a fiftieth for six degrees.',
    'Right at pH 7, and farther off the farther from it.',
    'Calibrating cold and measuring hot.',
  ],
  'redox-electrode-off': [
    'A redox electrode has no slope to be mended: it is clean, or it is done.',
    'Tens of millivolts beside the solution, and slow.',
    'Trimming the offset of a coated metal.',
  ],
  'arm-in-beam': [
    'The post stands nearer than the liquid, inside the cone.',
    'A level that never moves, at the height of the post.',
    'Shortening the arm to reach the device for service.',
  ],
  'arm-not-usual': [
    'A long arm swings in the wind, a short one stands over its own bank.',
    'The level waves with the wind, or sees the bank at low water.',
    'Taking the arm that lay in the store.',
  ],
  'target-narrower-than-beam': [
    'Part of the beam passes by the target and meets what stands behind it.',
    'Two echoes take turns.',
    'Proving with a board that is easily carried.',
  ],
  'target-tilted': [
    'A smooth target throws the echo where the mirror would send the light.',
    'The echo is weak or lost, best on one side.',
    'Holding the board by hand.',
  ],
  'leg-below-full': [
    'A wet leg that ends below full fills and empties with the level.',
    'Zero wanders by the missing head.',
    'Topping the leg up at each visit and calling it drift.',
  ],
  'vent-closed': [
    'The tube in the cable lets the sensor know the pressure of the air.',
    'The level follows the weather, by about a centimetre for each mbar.',
    'Ending the tube in a tight box, or taping it against the rain.',
  ],
  'nozzle-tall-and-narrow': [
    'In a tall and narrow nozzle a guided wave rings before it starts down the probe.',
    'High levels are covered by that ringing.',
    'Using the nozzle that is there because it fits the flange.',
  ],
  'vessel-top-unseen': [
    'The uppermost part of the vessel lies where the probe measures nothing.',
    'The level stops rising before the vessel is full.',
    'Placing the high alarm by the vessel and not by the zone.',
  ],
  'probe-beyond-vessel': [
    'The probe is longer than the vessel is deep.',
    'It stands on the bottom, bends, and touches the wall.',
    'Ordering by the drawing of another vessel.',
  ],
  'head-off-process': [
    'The head is not on the process: what it reads is air, or the bench.',
    'A steady and plausible value that is of nothing.',
    'Leaving the loop in automatic meanwhile.',
  ],
  'range-not-as-computed': [
    'The range in the device is not what geometry and densities make.',
    'Right at one level and off by a factor elsewhere.',
    'Ranging by trial at one level of the tank.',
  ],
  'outside-platinum': [
    'Beyond its table nothing ties the ohms of an element to degrees.',
    'The transmitter shows a figure, or its fault, as its maker chose.',
    'Ranging a plain element for a furnace.',
  ],
  'leads-unlike': [
    'Three wires cancel the leads only where two of them are alike.',
    'An offset of tenths of a degree for each tenth of an ohm.',
    'Repairing one broken core with a thinner one.',
  ],
  'self-heating': [
    'The measuring current warms the element above what it measures.',
    'Too warm in still air, right in a stream.',
    'Choosing more current for a quieter signal.',
  ],
  'not-matched': [
    'A matched pair is as good as its certificate only where the transmitter holds its constants.',
    'An error of some tenths that no trim at one point takes away.',
    'Paying for the certificate and leaving the standard curve.',
  ],
  'two-wire-leads': [
    'With two wires the leads count as element: each 0.39 Ω reads as a degree too much.',
    'Too hot by a fixed step that grows in summer.',
    'Trimming it away: the next cable has another resistance.',
  ],
  'outside-type': [
    'Outside its table a couple’s millivolts mean nothing.',
    'A figure that bends away from the truth, or the fault current.',
    'Choosing the type for the cable that is there.',
  ],
  'cable-of-another-type': [
    'Where metals of two types meet, another couple is made at that joint.',
    'An error as large as what the box is warmer than the terminals, times the difference.',
    'Matching the cable by its jacket, whose colours differ from standard to standard.',
  ],
  'cable-of-copper': [
    'Copper makes its own couple with each core at the head.',
    'It reads low by what the head is warmer than the room.',
    'Seeing a right value in the morning, when both are cold.',
  ],
  'cable-crossed': [
    'Crossed at both ends the joints count twice, crossed at one the sign turns.',
    'It falls while it gets hot, or is off by twice the room’s difference.',
    'Crossing the cores again at the other end to make it rise.',
  ],
  'cold-junction-fixed': [
    'A couple tells a difference: the terminals’ temperature is added to it.',
    'The reading follows the sun on the box.',
    'Fixing it at 20 °C for a simulator, and leaving it so.',
  ],
} as const satisfies Lessons
