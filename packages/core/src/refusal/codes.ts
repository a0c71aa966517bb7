// Every code with which something is refused, once: what it says, and what would be accepted. What is said to a person
// at the time carries the figures too; this is what the code means at all.

/** What a code means, and what would be taken instead. */
export type Meaning = readonly [says: string, accepted: string]

export const REFUSALS = {
  // Figures and units
  'invalid-input': [
    'An input is missing, of the wrong sort, or impossible.',
    'The inputs as the calculator lists them.',
  ],
  'out-of-range': ['A figure lies outside the range for which the source of the formula holds.', 'A figure inside it.'],
  'not-positive': ['A figure that must be above 0 is not.', 'A figure above 0.'],
  'not-a-number': ['A text is not a number.', 'Digits as printed, with one decimal mark.'],
  'not-a-figure': [
    'A text is not a figure with its unit.',
    'A number, with a unit where another than the shown one is meant.',
  ],
  'unknown-unit': ['No unit is called so.', 'A unit of the list, by its symbol or as printed.'],
  incommensurable: ['The two units measure different things.', 'Units of one quantity.'],
  'wrong-quantity': ['A figure has a unit of something else.', 'A unit of what is asked for.'],
  'entry-mismatch': [
    'What was typed and what was understood do not agree.',
    'An entry whose value is what its text says.',
  ],
  'value-missing': ['A figure that is asked for was not given.', 'The figure.'],
  'words-missing': ['An answer in words that is asked for was not given.', 'The words, or the name.'],
  'unknown-calculator': ['No calculator has this name.', 'A name of the list at /api/openapi.json.'],
  'no-solution': ['The equations have no solution for these figures.', 'Figures of a thing that can exist.'],
  // Signal, thread and chain
  'zero-span': ['The two ends of a range or scale are the same.', 'Two different ends.'],
  'loop-incomplete': ['Entries are missing without which the loop tells nothing.', 'The entries named.'],
  'unknown-knot': ['The loop has no such knot.', 'The id of a knot of its thread.'],
  'not-a-loop-current': ['No loop current: it lies outside 0 to 25 mA.', 'What the meter reads in the loop.'],
  'not-a-current': ['A discrete point has no loop current.', 'A point with a loop current.'],
  'not-a-switch': ['The point has a loop current, not two states.', 'A discrete point.'],
  'shunt-unknown': ['Volts were read, but the shunt is not entered.', 'The shunt’s ohms, or a reading in mA.'],
  'outside-sensor': ['The value lies outside the sensor’s limits.', 'A value within them.'],
  outside: ['The value lies where the device tells nothing.', 'A value within its reach.'],
  // Record and practice
  'bench-not-connected': [
    'No device answers: the loop has no link, and its simulated bench is not connected.',
    'Figures typed as the device shows them, or the bench connected for practice.',
  ],
  'not-of-the-bench': ['A figure is said to be of the bench, which is not connected.', 'The figure as read and typed.'],
  'check-of-bench': [
    'The check is a record, and the bench is connected.',
    'The bench disconnected first, or a check begun as practice.',
  ],
  'not-retakable': [
    'A figure of a run cannot be taken again: something was done to plant or device since.',
    'The run cancelled and begun anew.',
  ],
  // Check
  'plan-not-alternating': ['The points of a discrete check do not alternate.', '100 and 0 by turns.'],
  'unknown-gear': ['Test equipment is named that is not in the kit.', 'Equipment of the list.'],
  'gear-expired': [
    'Test equipment is past its due date.',
    'Other equipment, or a reason, which the certificate carries.',
  ],
  'no-such-place': [
    'A place of the loop is named at which nothing can be given or read in this check.',
    'A place behind the standard, each once.',
  ],
  'reading-doubtful': [
    'A figure can hardly be: a decimal mark lost, or another point’s reading.',
    'It with a reason, or the right one.',
  ],
  'nothing-read': ['A reading holds no figure of the places that the check reads.', 'At least one of them.'],
  'no-such-point': ['The plan has no such point.', 'A point of the plan.'],
  'no-such-reading': ['The reading to be corrected is not one of this point.', 'A standing reading of this point.'],
  'controller-missing': ['A reading on a bus has no controller value.', 'What the controller shows.'],
  'current-missing': ['A reading has no loop current.', 'What the meter reads, in mA or V.'],
  'witness-missing': ['A reading has no state of the controller.', 'What the controller shows: 1 or 0.'],
  'no-witness': ['A point has neither digital value, current nor receiver value.', 'At least one of them.'],
  'not-a-state': ['A lamp or controller state is neither 1 nor 0.', '1 or 0.'],
  'clock-ahead': [
    'A reading says a time that is still to come.',
    'The reading again, with the device’s clock set right.',
  ],
  'before-check': ['A reading says a time before its check was begun.', 'The reading again, with the clock set right.'],
  'too-old': ['A reading is older than 14 days.', 'A reading taken within 14 days.'],
  'not-live': [
    'A live reading has no sample that this server’s link gave.',
    'A live reading of the last minute, or a typed one.',
  ],
  'unknown-words': [
    'The words confirmed are not those of the gate.',
    'The gate as it stands after the page was loaded again.',
  ],
  'days-not-ascending': ['A check is not later than the one before it.', 'Checks in the order of their days.'],
  'uncertainty-not-positive': ['The standard uncertainty is not above 0.', 'An uncertainty above 0.'],
  // Trim and guided work
  'as-found-missing': [
    'Nothing, or too little, is on record as found.',
    'One or two points as found, before anything is adjusted.',
  ],
  'no-response': ['A stage hardly moves over the points.', 'Points apart enough that the stage responds.'],
  'points-not-ascending': ['A point does not lie above the one before it.', 'Points that rise.'],
  'outside-points': ['The trim is made farther out than anything was read.', 'Points read as far out as it.'],
  'no-such-procedure': ['The point does not take that procedure.', 'A procedure that the point offers.'],
  'no-limits': ['Tolerance or plausibility limit is not above 0 %.', 'Limits above 0 %.'],
  'buffers-missing': ['Too few or too many buffers are chosen.', 'Two to five buffers.'],
  'same-buffer': ['Two buffers are the same, or nearly.', 'Buffers at least half a pH apart.'],
  'buffers-swapped': [
    'The voltages of two buffers stand the wrong way round.',
    'Each electrode voltage in its own buffer.',
  ],
  'run-open': ['Another procedure on the loop is not finished.', 'That one finished or cancelled first.'],
  'not-begun': ['The run was never begun.', 'A run that was begun.'],
  'begun-already': ['The run was begun already.', 'A run of its own.'],
  'run-done': ['The run is finished.', 'A new run.'],
  'run-ended': ['The run was cancelled, and everything is put back.', 'A new run.'],
  cancelled: ['The run was cancelled; only what must be undone is open.', 'The step that undoes.'],
  'wrong-event': ['That is not what the open gate asks.', 'What the open gate asks.'],
  'wrong-command': ['That is not what the gate sends.', 'The gate’s own command.'],
  'wrong-move': ['Another valve is moved first.', 'The valve that the gate names.'],
  'manifold-danger': [
    'The move would put line pressure on one side of the cell, or vent it.',
    'The move that the gate names.',
  ],
  'nothing-sent': ['Nothing that could be answered was sent.', 'An answer to a command that is on its way.'],
  'unknown-held': ['The device never answered: nobody knows what it holds.', 'What it holds read back first.'],
  'not-steady': ['The reading was not looked at until it was steady.', 'The reading once it is steady.'],
  'far-from-target': ['The value is far from the one wanted.', 'A value near the target.'],
  'not-verified': ['The reading is still out of tolerance.', 'A reading within it, or the run cancelled.'],
  implausible: ['The correction is above the plausibility limit.', 'The cause found; a correction within the limit.'],
  'electrode-worn-out': [
    'Slope or offset is beyond what an electrode that can be used has.',
    'The electrode cleaned or replaced.',
  ],
  'no-such-step': ['The sheet has no such step.', 'A step of the sheet.'],
  'step-out-of-order': ['Another step comes first, or this one is done.', 'The step that is next.'],
  'no-such-reset': ['Nothing asked for this to be entered again.', 'An entry that is to be made again.'],
  'no-such-survey': ['The survey was not begun here.', 'A survey of this loop.'],
  'no-such-visit': ['Nothing was done at the loop then.', 'A moment of a visit; none for the newest.'],
  'survey-ended': ['The survey has ended.', 'A new survey.'],
  'no-such-entry': ['What is to be withdrawn is not in the log.', 'An entry of the log.'],
  // Devices
  'no-meter': [
    'The point has no simulated meter, or its entries make none yet.',
    'A point whose entries make a meter.',
  ],
  'no-transmitter': ['The point has no simulated transmitter.', 'A point with a transmitter.'],
  'no-such-command': ['The device has no such command.', 'A command that it offers.'],
  'not-measuring': ['The meter does not measure now.', 'The meter started, with a signal.'],
  'on-process': ['The process feeds the sensor.', 'The input taken off the process by the run sheet.'],
  'outside-process': ['The process does not go there, or not by itself.', 'A value within its limits.'],
  'unknown-practice': ['There is no such practice case.', 'A case of the list.'],
  // Fluids, pipes and flow
  'unknown-component': ['No gas is called so.', 'A component of the DETAIL equation.'],
  'composition-unreadable': [
    'The composition cannot be read.',
    'Components with their shares, as in “methane 97.2 %, ethane 2.8 %”.',
  ],
  'composition-sum': ['The shares do not add up to 100 %.', 'Shares that add up to 100 %.'],
  'two-phase': ['The mixture condenses, at least in part.', 'Temperature and pressure at which it is a gas.'],
  'not-liquid': ['Water boils there.', 'Temperature and pressure at which it is liquid.'],
  'not-steam': ['Steam condenses there.', 'Temperature and pressure at which it is dry.'],
  'not-in-table': ['The table has no such size or wall.', 'A size and wall of the table, or own figures.'],
  'no-bore': ['Wall and liner leave no bore.', 'A wall and liner that leave one.'],
  'no-transmission': ['The beam is totally reflected at a layer.', 'A steeper wedge, or another wave.'],
  'degenerate-constants': ['The two reference periods are equal.', 'Two different periods from the tag.'],
  'cutoff-not-positive': ['The low-flow cutoff is not above 0.', 'A cutoff above 0.'],
  // Level, temperature, analysis
  'level-outside-tank': ['The level lies outside the tank.', 'A level between bottom and top.'],
  'impossible-head': [
    'No head has such a knuckle or crown.',
    'A knuckle below half the diameter, a crown of at least half.',
  ],
  'rows-not-ascending': ['A row of a table does not rise.', 'Rows that rise.'],
  'outside-table': ['The value lies outside the table.', 'A value within it.'],
  'no-span': ['Nothing is left between empty and full.', 'Full above empty.'],
  'leg-missing': ['A wet leg has no fill or height.', 'Specific gravity of the fill, and its height.'],
  'unknown-buffer': ['The set has no such buffer.', 'A buffer of the set.'],
  'not-a-buffer': ['The pH of a buffer does not lie between 0 and 14.', 'A pH between.'],
  'points-too-close': ['Two points are too close to each other.', 'Points farther apart.'],
  'no-slope': ['The electrode gives the same voltage in every buffer.', 'Voltages that differ.'],
  // Wiring and discrete points
  'no-such-terminal': ['The wiring has no such terminal.', 'A terminal of the drawing.'],
  'same-terminal': ['Both ends of a conductor are on one terminal.', 'Two different terminals.'],
  'device-unreadable': ['A device file cannot be read.', 'A file by the published schema.'],
  'wiring-unreadable': ['A wiring on record cannot be read.', 'A wiring as this application writes it.'],
  'power-not-off': ['The power was not confirmed off.', 'The gate “power off” confirmed first.'],
  'not-a-mismatch': ['The stage fits the common: no resistor is needed.', 'A stage that does not fit.'],
  'train-unsound': ['A train of edges has a gap that is none.', 'Whole milliseconds, 1 or more.'],
  'shifts-unreadable': ['A shift cannot be read.', 'Shifts written like “Early 06:00–14:00”.'],
  'days-unreadable': ['A day cannot be read.', 'Days written like “Mon–Fri”.'],
  // Folders brought in, papers, kinds
  'unknown-kind': ['This installation does not know the kind of point.', 'A kind of the list.'],
  'newer-kind': ['The entries were made by a later release of the kind.', 'This installation updated first.'],
  'newer-version': ['The bundle was made by a later release.', 'This installation updated first.'],
  'not-json': ['The text is not JSON, or not whole.', 'A whole file.'],
  'not-a-bundle': [
    'The file is no loop folder, or one that contradicts itself.',
    'A bundle as this application writes it.',
  ],
  'signature-broken': ['What was signed is not what the bundle holds.', 'The bundle as it was when it was signed.'],
  'no-setup-sheet': ['The kind of point has no set-up sheet.', 'A kind that has one.'],
} as const satisfies Record<string, Meaning>

export type RefusalCode = keyof typeof REFUSALS
