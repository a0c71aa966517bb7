// Lessons of flow.
import type { Lessons } from './lesson.ts'

export const FLOW_LESSONS = {
  'root-twice': [
    'Flow goes with the root of the pressure; taken twice it is the fourth root.',
    'Right at both ends, far too high between: 25 % of flow shows as 50 %.',
    'Trimming zero and span, where nothing is wrong.',
  ],
  'root-never': [
    'Flow goes with the root of the pressure, and nobody takes it.',
    'Right at both ends, far too low between: half of the flow shows as a quarter.',
    'Leaving the root to the other end, and the other end to this one.',
  ],
  'beta-out-of-range': [
    'The coefficient of a plate is known for some ratios of bore to pipe only.',
    'A figure comes out, and nobody knows how far it is off.',
    'Taking the nominal size of the pipe for its inner diameter.',
  ],
  'beyond-plate': [
    'No flow through this plate makes that difference of pressure in such a pipe.',
    'The upper part of the range is never reached.',
    'Raising the range and keeping the plate.',
  ],
  'beyond-cell': [
    'Full flow makes more pressure than the cell measures.',
    'The flow stands still at the cell’s limit while more runs.',
    'Reading the cell’s limit of overload for its range.',
  ],
  'steam-nearly-wet': [
    'Near its boiling point steam carries drops, and the plate weighs them as steam.',
    'The flow jumps and the balance does not close.',
    'Computing with the table’s dry steam at the same pressure.',
  ],
  'range-not-from-zero': [
    'A root bends most at nothing: a range that begins elsewhere bends otherwise.',
    'The ends agree and the middle does not.',
    'Lifting the zero of a flow to hide its noise.',
  ],
  'factor-not-positive': [
    'A factor of nothing turns every flow into nothing.',
    'The meter stands at zero, or shows its fault.',
    'Losing the factor when a converter is exchanged.',
  ],
  'pulses-too-fast': [
    'A counter needs each pulse on and off for a least time.',
    'It counts right at low flow and too little at high flow.',
    'Choosing small pulses for a fine total.',
  ],
  'pulses-lost': [
    'The output would give more pulses in a second than the receiver sees.',
    'The meter’s own total runs ahead of the controller’s.',
    'Comparing both at low flow only.',
  ],
  'range-beyond-meter': [
    'The meter measures no more than its upper flow.',
    'The current stands short of 20 mA with the valve open.',
    'Ranging for the pump’s plate.',
  ],
  'beyond-size': [
    'Such a velocity is more than sensors of this size are used for.',
    'Noise, wear of the liner, loss of pressure.',
    'Taking the sensor’s size for that of the pipe before the reducer.',
  ],
  'lost-decimal': [
    'The factor is ten or a thousand times what such sensors have.',
    'Everything is off by just that, and very steady.',
    'Reading a stamped point for a scratch.',
  ],
  'constant-unusual': [
    'The constant is far from what sensors of its kind have.',
    'Flow or density is off by the same factor everywhere.',
    'Typing the figure in other units than the tag prints.',
  ],
  'pulse-mass-unreadable': [
    'A pulse stands for some mass; what is entered is none.',
    'No total can be reckoned.',
    'Typing litres where the meter weighs.',
  ],
  'factor-not-combined': [
    'A tag may print the factor and its temperature coefficient as one figure.',
    'With the second part left out the flow is off when it is warm.',
    'Copying the first part, which looks whole.',
  ],
  'flow-cal-not-positive': [
    'The factor turns the delay of the tubes into mass.',
    'Zero or negative flow whatever runs.',
    'Copying the zero’s figure into the factor’s place.',
  ],
  'equal-periods': [
    'Density follows from the tubes’ period between two references; equal ones tell nothing.',
    'The density stands still.',
    'Copying one reference twice.',
  ],
  'periods-swapped': [
    'Heavier tubes swing more slowly: the longer period belongs to the heavier reference.',
    'The density runs the wrong way.',
    'Copying the four figures in the order of another maker’s tag.',
  ],
  'display-takes-volts': [
    'A lit display in the loop takes its volts from the transmitter.',
    'Good in daylight, lost at the top of the range at night.',
    'Summing up the load by the receiver alone.',
  ],
  'against-arrow': [
    'Flow runs against the arrow on the device, or against its setting.',
    'A negative flow, or none, with a meter that is well.',
    'Turning round the wires of the output.',
  ],
  'wall-thick': [
    'Such a wall is thicker than pipes of that size have.',
    'Area and path are too small, and so is the flow.',
    'Gauging over paint or couplant, or reading inches for millimetres.',
  ],
  'wall-from-table': [
    'A table has the wall as it was bought, not as it is after years.',
    'A wall worn by 0.5 mm in 5 mm reads some per cent off.',
    'Gauging at the next bend, where it wears otherwise.',
  ],
  'liner-no-speed': [
    'The beam bends in the liner by the speed of sound there.',
    'The spacing is off and the signal lies beside the pair.',
    'Leaving the liner out since the signal comes through.',
  ],
  'liner-bond': [
    'Where a liner is loose the sound does not pass from wall to liner.',
    'The signal comes and goes with heat and pressure.',
    'Moving the pair about until it happens to work today.',
  ],
  'wedge-angle': [
    'Sound enters the wall at an angle that the pair’s wedge gives.',
    'The path cannot be computed.',
    'Reading the temperature or the frequency off the pair’s plate for it.',
  ],
  'gas-pressure-low': [
    'A thin gas hardly takes the sound over from the wall.',
    'What arrives ran round the pipe in the wall.',
    'Raising the gain until that noise is strong.',
  ],
  'reference-of-liquid': [
    'Reference conditions are a way to count gas.',
    'The figure is near the volume as it flows and means nothing.',
    'Keeping the units of the gas line’s set-up for a liquid.',
  ],
  'reference-apart': [
    'A cubic metre at 0 °C holds 5.5 % more than one at 15 °C.',
    'Two meters in one line differ by just that.',
    'Calling both of them standard.',
  ],
  'gas-state-fixed': [
    'With fixed pressure and temperature the meter counts a gas that is not there.',
    'The error follows the pressure: one bar of eighteen is more than 5 %.',
    'Fixing what was true on the day of the set-up.',
  ],
  'near-dew-point': [
    'Near its dew point part of the gas is drops, which no gas law knows.',
    'Signal and flow jump in the cold of the night.',
    'Looking at the pair and the couplant for it.',
  ],
  'not-a-pair': [
    'Two transducers are matched: their times are alike to a nanosecond.',
    'A zero that is off with the pump stopped.',
    'Taking the better one of each of two old pairs.',
  ],
  'transducer-unsuited': [
    'A pair is made for a range of walls and diameters by its frequency.',
    'Weak signal, or one that ran along the wall.',
    'Using the pair that is in the case.',
  ],
  'velocity-high': [
    'Fast flow carries the beam away from where the other transducer sits.',
    'The signal is lost at high flow and well at low flow.',
    'Setting up at night, when little runs.',
  ],
  'equal-densities': [
    'Density follows from two references; equal ones tell nothing.',
    'The density stands still, or divides by nothing.',
    'Leaving both at the density of water.',
  ],
  'density-unit': [
    'A reference density is a thousand times off.',
    'Air weighs like water, or water like air.',
    'Typing g/cm³ where kg/m³ is asked for.',
  ],
  'outside-standard': [
    'The plate lies outside of what its standard has tried.',
    'A figure comes out whose doubt nobody has stated.',
    'Using the equation because the calculator takes the numbers.',
  ],
  'standard-from': [
    'At small flow the friction is another, and the coefficient with it.',
    'Low flows read high or low by some per cent.',
    'Checking at full flow and trusting the rest.',
  ],
  'edge-rounded': [
    'The coefficient is that of an edge that catches the light.',
    'It reads low: a dull edge lets more pass for the same pressure.',
    'Looking at the bore, which is as it was.',
  ],
  'cutoff-below-zero': [
    'The zero itself may show more than the cutoff hides.',
    'With the valves shut the total creeps.',
    'Lowering the cutoff for the sake of small flows that the zero cannot carry.',
  ],
  'same-pair-twice': [
    'One transducer cannot sit on two paths.',
    'One of the two serial numbers is wrong, and with it the matching.',
    'Copying the first path’s numbers.',
  ],
  'second-pair-unknown': [
    'Without its numbers nobody knows whether the second pair is matched.',
    'The paths differ, and neither can be blamed.',
    'Writing down the numbers once the covers are on.',
  ],
  'bodies-meet': [
    'Both bodies on one side need more room than the spacing leaves.',
    'They cannot be set where the drawing puts them.',
    'Moving them apart until they fit, and leaving the spacing as entered.',
  ],
  'wall-off-schedule': [
    'The gauged wall is not that of the pipe’s schedule.',
    'One of the two is wrong, and flow goes with the square of the bore.',
    'Trusting the schedule of the drawing over the gauge, or the reverse, unlooked.',
  ],
  'straight-run-negative': [
    'A straight run is a length of pipe; there is none below nothing.',
    'The rule cannot be looked up.',
    'Entering the side by a sign.',
  ],
  'straight-run-unusual': [
    'A run of that length is rare: more often the unit is another.',
    'The rule is met on paper only.',
    'Typing millimetres where diameters or metres are asked for.',
  ],
  'straight-run-of-gas': [
    'Swirl dies out in a gas otherwise than in a liquid.',
    'The two rules ask for different runs at the same bend.',
    'Judging a gas line by the liquid’s short runs.',
  ],
  'straight-run-short': [
    'Behind bends and valves the flow is lopsided and turns.',
    'Steady readings that are off by some per cent, another per cent at another flow.',
    'Averaging them: the error is the same each time.',
  ],
  'pipe-may-empty': [
    'A meter counts velocity by the whole bore; a pipe that is half full has less.',
    'Too much is shown, or the signal is lost.',
    'Mounting it in the fall pipe because there is room.',
  ],
  'pair-position': [
    'Gas gathers at the top of a level pipe and sediment at its bottom.',
    'The signal goes while the pump starts, or slowly over weeks.',
    'Clamping on from above, where one stands well.',
  ],
  'gland-limit': [
    'Above this pressure the stem is driven out once the gland is loosened.',
    'A stem that shoots: nobody stops it by hand.',
    'Going by the pressure of yesterday.',
  ],
  'baseline-odd': [
    'A step of the baseline does not follow its nozzle’s own law.',
    'The verification passes or fails by a misprint.',
    'Trusting the certificate’s list without a look at its neighbours.',
  ],
  'no-rods': [
    'Rods hold the stem where the gland alone does not.',
    'Without them pressure throws the stem out.',
    'Leaving them off for a short look.',
  ],
  'depth-off': [
    'The speed differs from the wall to the middle: the factor belongs to one depth.',
    'A steady error of per cents, most in small pipes.',
    'Pushing the stem in until it meets the other wall.',
  ],
  'spacing-off': [
    'The pair hears best, and in the right time, at one spacing only.',
    'The signal is there, and the sound speed is off.',
    'Setting the spacing for the loudest signal.',
  ],
  'stem-short': [
    'The element does not reach where the factor was made.',
    'It reads low, by the slower flow near the wall.',
    'Counting the nozzle’s length as part of the pipe.',
  ],
  'law-reversed': [
    'Flow cools the heated element: the difference falls as it rises.',
    'The flow falls when it is opened.',
    'Exchanging the two points of the law.',
  ],
  discharge: [
    'No nozzle lets more pass than its throat, or so much less.',
    'The verification fails by a factor.',
    'Reading the throat’s area for its diameter.',
  ],
} as const satisfies Lessons
