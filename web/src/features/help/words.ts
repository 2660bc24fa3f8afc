/** A word of the trade as this program uses it. */
export interface Word {
  readonly word: string
  readonly means: string
  /** What else people call it; found by the search, never used on a screen. */
  readonly also?: string
}

/** One word for one thing, on every screen and every paper. */
export const WORDS: readonly Word[] = [
  {
    word: '4 mA point (LRV)',
    means: 'The measured value at which the output is 4 mA.',
    also: 'lower range value zero',
  },
  {
    word: '20 mA point (URV)',
    means: 'The measured value at which the output is 20 mA.',
    also: 'upper range value full scale',
  },
  {
    word: 'Active output',
    means: 'An output that supplies the loop current itself. Only one thing in a loop may.',
    also: 'sourcing powered',
  },
  {
    word: 'As found, as left',
    means: 'What a loop read before anybody touched it, and what it read when it was left.',
  },
  { word: 'Assumed', means: 'A typical value that nobody has confirmed. It is outlined.', also: 'default' },
  {
    word: 'Audit',
    means: 'Ranges, units and functions along the line compared with each other, without a reading.',
  },
  {
    word: 'Barrier',
    means: 'What lets no more energy into a hazardous area than is safe.',
    also: 'intrinsic safety zener isolator',
  },
  { word: 'Bench', means: 'One part of the work on a loop: Wire, Set up, Scale, Trim, Verify or Record.' },
  {
    word: 'Budget of the loop',
    means: 'The volts that are left for the transmitter over the whole range of current.',
    also: 'loop resistance load',
  },
  {
    word: 'Calm line',
    means:
      'The signal path as one line. It is flat where everything agrees and steps where an error comes in.',
  },
  {
    word: 'Card codes',
    means: 'The whole numbers that an input card makes of a current.',
    also: 'counts raw',
  },
  {
    word: 'Close a phase',
    means:
      'Say that the as-found or as-left readings are complete. Nothing of them can be changed afterwards.',
  },
  { word: 'Confirm', means: 'Say that a value is so, though nobody typed it or it looks like a slip.' },
  {
    word: 'Countersign',
    means: 'A reviewer signs what a technician has signed. Nobody reviews their own work.',
  },
  { word: 'Cutoff', means: 'Below it a flow is shown as nothing.', also: 'low flow cut' },
  {
    word: 'Damping',
    means: 'How long the device takes to follow, as a time constant in seconds.',
    also: 'filter tau',
  },
  {
    word: 'Dead zone',
    means: 'Where a level device cannot see: near the sensor, or at the end of a probe.',
    also: 'blocking distance',
  },
  {
    word: 'Decision rule',
    means: 'How an error is accepted when it is known only to so much: by itself, or with a guard band.',
  },
  {
    word: 'Device',
    means: 'What measures in the field: a transmitter, a meter, a sensor.',
    also: 'instrument transmitter',
  },
  { word: 'Drift', means: 'What a loop’s error does over the years, and when it will leave its tolerance.' },
  {
    word: 'Dry contact',
    means: 'A contact that only opens and closes. What it switches is supplied from elsewhere.',
    also: 'volt free potential free',
  },
  { word: 'Due', means: 'The day by which a loop is to be verified again.' },
  { word: 'Event', means: 'One line of the record: what was done, by whom and when. It is never changed.' },
  {
    word: 'Failure current',
    means: 'What the output goes to when the device knows that it is wrong: low or high, as it was told.',
    also: 'NE 43 burnout fail safe',
  },
  { word: 'Ferrule', means: 'The end of a wire, and the mark printed on it.' },
  {
    word: 'Finding',
    means: 'A judgement in a sentence, with its numbers, its rule and, where there is one, its fix.',
  },
  { word: 'Foreign', means: 'It came with a package from elsewhere. Nobody here vouches for it.' },
  {
    word: 'Guard band',
    means: 'What is taken off the tolerance because the comparison itself is not certain.',
  },
  { word: 'Hold point', means: 'A step that has to be ticked by a person before the work goes on.' },
  { word: 'Hysteresis', means: 'The difference between the reading on the way up and on the way down.' },
  {
    word: 'In tolerance',
    means: 'Every error that was read is no larger than the loop allows.',
    also: 'pass good ok',
  },
  {
    word: 'Instrument',
    means: 'Test equipment with a certificate: a calibrator, a pressure pump, a multimeter, a decade.',
    also: 'test equipment standard reference',
  },
  { word: 'Interval', means: 'How many months may go by between two verifications.' },
  {
    word: 'Lift-off voltage',
    means: 'The least volts at its terminals with which a 2-wire transmitter works.',
    also: 'compliance',
  },
  {
    word: 'Liner',
    means: 'A lining inside a pipe. The sound goes through it and the bore is smaller by it.',
  },
  {
    word: 'Locate',
    means: 'Find where along the line an error comes in, from what was really measured.',
    also: 'diagnose troubleshoot',
  },
  {
    word: 'Loop',
    means: 'One measuring point from the process to its display, with its tag.',
    also: 'measuring point channel',
  },
  { word: 'Manifold', means: 'The valves between the process and a pressure transmitter.' },
  { word: 'Measured', means: 'Read from the world. It is in copper.' },
  { word: 'NO, NC', means: 'Normally open, normally closed: what a contact is when nothing acts on it.' },
  { word: 'Not judged', means: 'Nobody and nothing has looked. It is not the same as good.' },
  { word: 'Package', means: 'A loop with its whole record in one file, which proves itself.' },
  {
    word: 'Passive output',
    means: 'An output that only lets current through. Something else in the loop has to supply it.',
    also: 'sinking loop powered',
  },
  { word: 'Plan', means: 'The points at which a verification is read, up and down.' },
  {
    word: 'PNP, NPN',
    means: 'A sensor that switches to plus, and one that switches to 0 V. The arrow shows the current.',
    also: 'sourcing sinking',
  },
  { word: 'Pocket card', means: 'What every station reads at the quarter points, on one small page.' },
  { word: 'Procedure', means: 'Work in steps with cautions, readings and a way back to a safe state.' },
  {
    word: 'Prove the record',
    means: 'Check that every event is there and unchanged. Each is tied to the one before it.',
  },
  {
    word: 'Read back',
    means: 'What a device shows after it was keyed in, compared with the settings sheet line by line.',
  },
  { word: 'Reading', means: 'A value that was read, with who read it and when.' },
  { word: 'Receiver', means: 'What takes the current: an input card, a display, a recorder.' },
  {
    word: 'Reflect, direct',
    means:
      'Sound that crosses the pipe twice or four times, and once. The sensors are then on one side or on both.',
    also: 'traverses V W Z method',
  },
  { word: 'Revision', means: 'A loop as it was saved once, with who saved it and why.' },
  {
    word: 'Sensor trim',
    means: 'Tell the device what its sensor sees now. A known input has to be applied.',
    also: 'zero trim calibration',
  },
  {
    word: 'Set-up',
    means: 'What a device has to be told before it can measure.',
    also: 'configuration parameters',
  },
  { word: 'Settings sheet', means: 'The set-up in the order in which it is keyed in, the store step last.' },
  { word: 'Shunt', means: 'The resistor that makes volts of the loop current, 250 Ω for 1 to 5 V.' },
  { word: 'Sign', means: 'Stand for a record with one’s name.' },
  {
    word: 'Simulated',
    means: 'It comes from a stand-in, not from the world. It is slate blue with a dotted line.',
  },
  { word: 'Span', means: 'From the 4 mA point to the 20 mA point.' },
  {
    word: 'Square root',
    means:
      'What makes a flow of a pressure difference. It is taken once, in the transmitter or in the controller.',
    also: 'root extraction',
  },
  {
    word: 'Stand-in',
    means: 'A simulated device that ships with the program and behaves like a real one.',
    also: 'simulator',
  },
  {
    word: 'Station',
    means:
      'A place on the line where a value can be read: process, sensor, percent, loop, shunt, card, controller, display.',
  },
  {
    word: 'Store',
    means: 'Put settings where they outlast a power cycle. What is applied is not yet stored.',
  },
  { word: 'Straight run', means: 'Pipe without a bend, in diameters, before and behind a flow meter.' },
  { word: 'Template', means: 'A loop to begin others from.' },
  {
    word: 'Tolerance',
    means: 'How large an error may be, in percent of span, percent of reading or a value.',
  },
  { word: 'Trip', means: 'A relay that switches at a set value.', also: 'alarm relay' },
  { word: 'Uncertainty', means: 'How well the comparison itself is known, with k = 2.' },
  { word: 'Verdict', means: 'What a verification came to: in tolerance or out of it, for certain or not.' },
  {
    word: 'Water column',
    means: 'A pressure as a height of water. It needs the temperature of the water; the plant says it once.',
    also: 'inH2O mmH2O in wc',
  },
  { word: 'Zero stability', means: 'What a flow meter may still show with the flow stopped.' },
]
