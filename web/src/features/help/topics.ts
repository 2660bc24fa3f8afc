import locate from '../../../../docs/screenshots/locate.png'
import record from '../../../../docs/screenshots/record.png'
import scale from '../../../../docs/screenshots/scale.png'
import setUp from '../../../../docs/screenshots/set-up.png'
import survey from '../../../../docs/screenshots/survey.png'
import today from '../../../../docs/screenshots/today.png'
import trim from '../../../../docs/screenshots/trim.png'
import verify from '../../../../docs/screenshots/verify.png'
import wire from '../../../../docs/screenshots/wire-meter.png'

export interface Topic {
  readonly id: string
  readonly title: string
  /** What it is for, in a sentence. */
  readonly for: string
  readonly picture?: { readonly url: string; readonly says: string }
  readonly steps: readonly string[]
  /** What it judges, and what each judgement rests on. */
  readonly judges: readonly { readonly what: string; readonly restsOn: string }[]
  readonly not: readonly string[]
}

/** One page for each bench, in the order of work. */
export const TOPICS: readonly Topic[] = [
  {
    id: 'wire',
    title: 'Wire',
    for: 'Draw what is wired to what, see whether it works, and know what your meter should read before you touch anything.',
    picture: { url: wire, says: 'A loop on the drawing board with the meter in series.' },
    steps: [
      'Begin with the usual parts, or add them. Drag from ring to ring, or choose one ring and then the other.',
      'Turn the power on, put the target there, move the process: the circuit is solved each time.',
      'Put the multimeter in. The reading and its sign are what you should see in the field.',
      'Take the list of what to read, the terminations and the drawing with you.',
    ],
    judges: [
      {
        what: 'Whether the wiring works',
        restsOn: 'the solved circuit, in every state of the loop that can be tried here',
      },
      {
        what: 'Whether the supply is enough',
        restsOn: 'the volts left at the transmitter from 3.6 to 21 mA, against its label',
      },
      { what: 'What blows a fuse', restsOn: 'the jack, the dial and the current through the meter' },
    ],
    not: [
      'It solves the circuit at rest: no inrush, no contact bounce, no fuse time.',
      'It does not replace proving dead.',
    ],
  },
  {
    id: 'set-up',
    title: 'Set up',
    for: 'Enter what the device has to be told and see at once whether it can be true.',
    picture: { url: setUp, says: 'A clamp-on meter: entries on the left, the pipe to scale on the right.' },
    steps: [
      'Say what kind of meter it is.',
      'Enter what is on the pipe, the label and the certificate. A unit may be typed behind a number.',
      'Look at the picture: it is to scale, so a wrong number looks wrong.',
      'Take the settings sheet to the device and key it in from top to bottom. Store last.',
      'What stands there already counts once somebody chooses it, confirms it or types it.',
    ],
    judges: [
      {
        what: 'Whether the entries fit each other',
        restsOn: 'the formulas of the family, with their standard beside each',
      },
      { what: 'How sure the result is', restsOn: 'how well each entry is known, by formula or by trials' },
    ],
    not: [
      'It does not read the device’s own menus; the sheet is in the usual order until somebody puts it in the device’s.',
    ],
  },
  {
    id: 'scale',
    title: 'Scale',
    for: 'Make every receiver understand the transmitter, and find where along the line an error comes in.',
    picture: { url: scale, says: 'Ranges on the left, what they tell on the right, the line open above.' },
    steps: [
      'Type the ranges as they are set, from the transmitter to the display.',
      'Type a value into any station, or drag the process: all the others follow.',
      'Fix what the findings name, one touch each.',
      'To locate an error, type what was really measured at two levels or more.',
    ],
    judges: [
      { what: 'Whether the ranges agree', restsOn: 'range, unit, direction and function of each neighbour' },
      {
        what: 'Where an error comes in',
        restsOn: 'your readings with their uncertainty, against every known mistake',
      },
    ],
    not: ['It cannot see a wrong range that was typed here as it should be.'],
  },
  {
    id: 'trim',
    title: 'Trim',
    for: 'Adjust the device step by step, with the cautions in their place and a way back at every step.',
    picture: { url: trim, says: 'A procedure in its steps beside the stand-in.' },
    steps: [
      'Choose what is to be done, and the instruments in your hand.',
      'Tell the operators, go to manual, read as found before anything moves.',
      'Apply, wait until every gate of the step holds, act, read as left. Typed readings are typed twice.',
      'Where the readings ask for another procedure, go on with that one: nobody is called again.',
      'Back in service. “Stop here and make it safe” leads back from anywhere.',
    ],
    judges: [
      {
        what: 'Whether a step may be done',
        restsOn:
          'its gates: input, standing still for its damping, no limit, quiet process, authority. Against one it goes on with a reason only',
      },
      {
        what: 'What it came to',
        restsOn: 'readings after the last write and the loop’s limits, never the last step',
      },
      {
        what: 'Whether an adjustment is worth it',
        restsOn: 'the as-found readings; a range is never moved to hide a zero',
      },
    ],
    not: [
      'A stand-in stands beside the steps on loops of the demo plant alone, and says so. Readings of a real one are typed.',
      'A field zero says nothing of the span: verify it.',
    ],
  },
  {
    id: 'verify',
    title: 'Verify',
    for: 'Compare the loop with a standard, point by point, and get a verdict with its uncertainty.',
    picture: { url: verify, says: 'Readings on the left, errors and verdict on the right.' },
    steps: [
      'Choose the plan, what the standard gives and the instruments. How sure the comparison is follows from them.',
      'Read each point. Enter goes to the next; a column can be pasted.',
      'Close as found, say what was adjusted, read as left.',
      'Sign. A reviewer countersigns.',
    ],
    judges: [
      {
        what: 'In tolerance or not',
        restsOn: 'the worst point, the tolerance, the uncertainty and the decision rule',
      },
      { what: 'Which part is off', restsOn: 'sensor, output and receiver, each read on its own' },
      { what: 'What to do', restsOn: 'zero, span, linearity and hysteresis of the errors' },
    ],
    not: [
      'Without an instrument it can be read and not signed, and no uncertainty is claimed.',
      'Readings that cannot all be true are no verdict before somebody has looked again.',
    ],
  },
  {
    id: 'record',
    title: 'Record',
    for: 'See everything that was ever done to the loop, and prove that it is complete.',
    picture: { url: record, says: 'The record of a loop with its drift over the years.' },
    steps: [
      'Open a verification or a procedure to see its steps, readings, names and times.',
      'Restore a revision: it becomes the newest one, with your reason.',
      'Prove the record, or take the loop along as a package.',
    ],
    judges: [
      {
        what: 'Whether the record is whole',
        restsOn: 'the hash of every event, each made with the one before it',
      },
      { what: 'When to come back', restsOn: 'the errors of the last years and their scatter' },
    ],
    not: ['Nothing in it can be changed or taken out. A mistake is corrected by the next event.'],
  },
  {
    id: 'today',
    title: 'Today',
    for: 'Know what has to be done, who does it when, what to carry, and what became of it.',
    picture: { url: today, says: 'A day planned for two people, with the ways between their jobs.' },
    steps: [
      'Say who is there, and once for the plant how far it is from place to place.',
      'Plan it. Each job says why it is where it is; each that has no place says what would make it fit.',
      'Move jobs by hand: drag them, or Alt with the arrow keys. What does not go is told at once.',
      'What was agreed with operations stays where it is when the rest is planned anew.',
      'In the field: My day shows the next job and opens its bench. The record tells what is done.',
    ],
    judges: [
      {
        what: 'How good a plan is',
        restsOn: 'the exact method for up to nine jobs; else a search, held against a least possible effort',
      },
      { what: 'How long a job takes', restsOn: 'the last verifications of this kind here, stops taken out' },
      { what: 'What became of a job', restsOn: 'the verification or procedure in the record of its loop' },
    ],
    not: [
      'It gives no permit and takes nothing out of service: what was agreed is what somebody typed.',
      'It plans usual times as if they were certain.',
    ],
  },
  {
    id: 'survey',
    title: 'Surveys',
    for: 'Carry a portable meter from pipe to pipe, and know of each place what a reading from it is worth.',
    picture: { url: survey, says: 'A site: entries on the left, every point of its verdict on the right.' },
    steps: [
      'Under Logs, Surveys: begin one, and choose the loop whose pipe is measured.',
      'Enter pipe, fluid, straight run and sensors. What nobody entered is not judged; confirm it or type it.',
      'Put the sensor where it is calculated, then one step nearer and one further, each with its signal. It says where to go next; the last try is where it stays.',
      'Read the speed of sound, record a log there, read it in and choose it. Keep the site.',
    ],
    judges: [
      {
        what: 'The position',
        restsOn: 'a parabola through the tries, the last reading, and the calculated place',
      },
      {
        what: 'The signal',
        restsOn: 'the share of the log’s samples with at least 50 % (95 % is good, 80 % usable; typical)',
      },
      {
        what: 'The speed of sound',
        restsOn: 'pipe, fluid and sensors as entered; an assumed one proves nothing',
      },
      {
        what: 'The pipe',
        restsOn: 'the loop’s own set-up, where it is a clamp-on meter: there is one truth',
      },
    ],
    not: ['Signals of several sites are never averaged.', 'A pipe that belongs to no loop gets one first.'],
  },
  {
    id: 'locate',
    title: 'Locate an error',
    for: 'The display is wrong: find the part that makes it so, with as few measurements as possible.',
    picture: { url: locate, says: 'The line steps where the error comes in.' },
    steps: [
      'On Scale, choose “Locate an error”.',
      'Type what you measured at two levels: milliamps in the loop, volts at the shunt, what the controller shows.',
      'Measure next what it asks for: it tells most.',
    ],
    judges: [
      { what: 'The likely causes, in order', restsOn: 'how well each explains all your readings together' },
    ],
    not: ['It does not guess where nothing was read.'],
  },
]

/** What the product leaves to others. */
export const DOES_NOT: readonly string[] = [
  'It does not replace permits, local codes, the device’s manual or licensed practice. They decide.',
  'It does not control anything in the plant: it writes to stand-ins only.',
  'It does not say good where nobody has looked. Then it says “not verified” or “not yet”.',
  'It does not need the internet, and it sends nothing anywhere.',
]
