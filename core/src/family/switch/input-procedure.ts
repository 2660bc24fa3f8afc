import type { Outcome } from '../../procedure/outcome.ts'
import { acceptOrReport, callAndBypass, checkAndCall } from '../../procedure/parts.ts'
import { valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import {
  toldNumber,
  type Advice,
  type Procedure,
  type ProcedureContext,
  type Step,
} from '../../procedure/step.ts'
import { sayNumber } from '../../quantity/round.ts'
import { ONE_FROM_V, ZERO_UP_TO_V } from '../../signal/discrete-levels.ts'
import { judgeForced } from '../../verify/input-verdict.ts'

const CAUTIONS = [
  'A machine can start when its sensor switches: it is locked out before a hand goes in.',
  'A safety interlock is never bridged without its permit.',
  'Mains on a contact: isolated and proved dead before a wire is touched.',
  'The permit is here and names this tag.',
]
/** Limits of the supply of a 24 V input. @see IEC 61131-2 */
const [SUPPLY_LEAST_V, SUPPLY_MOST_V] = [19.2, 30]
/** By hand, so often: a bounce or a lost stroke shows itself. */
const BY_HAND = 10
/** Between a sure 0 and a sure 1 lie volts: one of them may be wrong. */
const VOLTS_ALLOWED = 1
const [FOLLOWS, NOT] = ['follows', 'not'] as const
/** Outputs with a lamp and an electronic switch; the others are a contact. */
const LIT: readonly unknown[] = ['pnp', 'npn', 'pushPull', 'twoWire', 'namur']

const toldWord = (c: ProcedureContext, name: string): string | null => {
  const value = c.told?.[name]
  return typeof value === 'string' ? value : null
}
const isLit = (c: ProcedureContext) => LIT.includes(c.told?.['output'])
const counts = (c: ProcedureContext) => c.told?.['counts'] === 1
const chosen = (run: ProcedureRun, id: string) => run.done.find((d) => d.step.id === id)?.choice ?? null

interface Part {
  readonly passes: boolean | null
  readonly says: string
}
/** One look that was taken: what it proves, or what it shows is wrong; nothing where it was not asked for. */
function looked(run: ProcedureRun, id: string, good: string, bad: string): Part[] {
  const choice = chosen(run, id)
  return choice === null ? [] : [{ passes: choice === FOLLOWS, says: choice === FOLLOWS ? good : bad }]
}

function judgeVolts(run: ProcedureRun): Part[] {
  const { supply_V, one_V: one, zero_V: zero } = valuesOfStep(run, 'levels')
  if (supply_V === undefined || one === undefined || zero === undefined) return []
  // An input whose common is plus reads below it: what counts is how far.
  const [one_V, zero_V] = [Math.abs(one), Math.abs(zero)]
  const told = `${sayNumber(one_V, 4)} V for 1 and ${sayNumber(zero_V, 4)} V for 0`
  if (supply_V < SUPPLY_LEAST_V || supply_V > SUPPLY_MOST_V)
    return [
      {
        passes: null,
        says: `At a supply of ${sayNumber(supply_V, 4)} V the levels of 24 V inputs do not hold: the card’s data sheet decides on ${told}.`,
      },
    ]
  const sure = Math.max(...Object.values(ONE_FROM_V))
  const least = Math.min(...Object.values(ONE_FROM_V))
  if (one_V <= ZERO_UP_TO_V && zero_V >= sure)
    return [
      {
        passes: null,
        says: `${told}: the other way round. Was it measured to 0 V at an input whose common is plus, as for NPN? Measure to its common.`,
      },
    ]
  if (one_V >= sure && zero_V <= ZERO_UP_TO_V)
    return [{ passes: true, says: `${told}: both sure for every type of 24 V input.` }]
  if (one_V >= least && zero_V <= ZERO_UP_TO_V)
    return [
      {
        passes: null,
        says: `${told}: enough for an input of type 2 or 3, not of type 1 (from ${sure} V). Look at the card.`,
      },
    ]
  return [
    {
      passes: false,
      says:
        zero_V > ZERO_UP_TO_V
          ? `${told}: above ${ZERO_UP_TO_V} V a 0 is not sure. A leaking two-wire sensor, or another supply comes in.`
          : `${told}: below ${least} V no input is sure to read 1. A long thin wire, a weak supply, or a sensor that lets too little through.`,
    },
  ]
}

function judgeBit(run: ProcedureRun): Part[] {
  const { whileSensing, whileNot } = valuesOfStep(run, 'forced')
  if (whileSensing === undefined || whileNot === undefined) return []
  const contact = toldWord(run.started.context, 'contact')
  // The same both ways is wrong whatever the contact.
  if (contact === null && whileSensing !== whileNot)
    return [
      {
        passes: null,
        says: `It reads ${whileSensing} while it senses and ${whileNot} while it does not; nobody has told on Set up whether its contact is NO or NC.`,
      },
    ]
  const v = judgeForced(
    { whileSensing: whileSensing === 1 ? 1 : 0, whileNot: whileNot === 1 ? 1 : 0 },
    contact === 'nc' ? 'nc' : 'no',
  )
  return v.says.map((says) => ({ passes: v.passes, says }))
}

function judgeCut(run: ProcedureRun): Part[] {
  const { cut } = valuesOfStep(run, 'cut')
  if (cut === undefined) return []
  return [
    cut === 0
      ? { passes: true, says: 'With a wire out it reads 0.' }
      : {
          passes: false,
          says: 'With a wire out it still reads 1: the bit comes from somewhere else. Another wire, a bridge, or a value that is forced in the controller.',
        },
  ]
}

function judgeTen(run: ProcedureRun): Part[] {
  const { hand, counted } = valuesOfStep(run, 'ten')
  if (hand === undefined || counted === undefined) return []
  const told = `${sayNumber(hand)} by hand, ${sayNumber(counted)} counted`
  if (counted === hand)
    return [
      {
        passes: hand >= BY_HAND,
        says: hand >= BY_HAND ? `${told}.` : `${told}: ${BY_HAND} at least prove it.`,
      },
    ]
  return [
    {
      passes: false,
      says:
        counted > hand
          ? `${told}: bounces come through, a longer filter; or each one is counted on both of its edges.`
          : `${told}: strokes are lost. The filter is too long, or the target too far away.`,
    },
  ]
}

/** Everything that was looked at, in the order in which it was. */
const partsOf = (run: ProcedureRun): Part[] => [
  ...(chosen(run, 'hand') === 'mounted'
    ? []
    : looked(run, 'hand', 'In the hand it switched.', 'In the hand it did not switch: another sensor.')),
  ...looked(
    run,
    'mounted',
    'At its place it follows the real thing.',
    'At its place it does not follow the real thing: gap, target or mounting.',
  ),
  ...judgeVolts(run),
  ...looked(
    run,
    'lamp',
    'The lamp of the input follows.',
    'The lamp of the input does not follow: wire, common, or PNP on an input for NPN.',
  ),
  ...judgeBit(run),
  ...judgeCut(run),
  ...looked(
    run,
    'words',
    'The controller says it senses while it does.',
    'The controller’s words say the other way round: text or contact is reversed.',
  ),
  ...looked(
    run,
    'alarm',
    'Its alarm comes, and goes.',
    'Its alarm does not come: delay, inhibit or the wrong state.',
  ),
  ...judgeTen(run),
  ...looked(
    run,
    'limits',
    'A cycle that is too long is told.',
    'A cycle that is too long is not told: the limit stands elsewhere.',
  ),
]

function judgeInput(run: ProcedureRun): Outcome {
  const parts = partsOf(run)
  const says = parts.map((p) => p.says)
  if (!run.done.some((d) => d.step.id === 'decide'))
    return { result: 'notDone', says: ['It was not looked at to the end.'] }
  if (parts.some((p) => p.passes === false))
    return {
      result: 'out',
      says: [...parts.filter((p) => p.passes === false), ...parts.filter((p) => p.passes !== false)].map(
        (p) => p.says,
      ),
    }
  if (run.started.way === 'bench')
    return {
      result: 'notJudged',
      says: [...says, 'In the hand only: wire, input and bit were not looked at.'],
    }
  return { result: parts.some((p) => p.passes === null) ? 'notJudged' : 'untouched', says }
}
const adviceOnInput = (run: ProcedureRun): Advice => {
  const parts = partsOf(run)
  return {
    choice: parts.some((p) => p.passes === false) ? 'report' : 'accept',
    says: parts.map((p) => p.says),
  }
}

const look = (id: string, title: string, says: string, more: Partial<Step> = {}): Step => ({
  id,
  kind: 'decide',
  title,
  says,
  choices: [
    { value: FOLLOWS, title: 'It does' },
    { value: NOT, title: 'It does not' },
  ],
  ...more,
})
/** A bit is 0 or 1. */
const bits =
  (...names: readonly string[]) =>
  (values: Readonly<Record<string, number>>): string | null =>
    names.every((n) => values[n] === 0 || values[n] === 1) ? null : 'A bit is 0 or 1.'
/** What is counted is a whole number. */
const whole = (values: Readonly<Record<string, number>>): string | null =>
  ['hand', 'counted'].every((n) => Number.isInteger(values[n]) && (values[n] ?? -1) >= 0)
    ? null
    : 'Counts are whole numbers.'

const inTheHand = (c: ProcedureContext): Step =>
  look(
    'hand',
    isLit(c) ? 'In the hand: lamp at the label’s voltage' : 'In the hand: contact with an ohmmeter, dead',
    isLit(c)
      ? 'Before it is mounted: at the voltage of its label, with its target to and fro; the lamp follows.'
      : 'Before it is mounted: closed under 1 Ω, open above 10 MΩ, moved by hand to and fro.',
    c.way === 'bench'
      ? {}
      : {
          choices: [
            { value: FOLLOWS, title: 'It does' },
            { value: NOT, title: 'It does not' },
            { value: 'mounted', title: 'It is mounted already' },
          ],
        },
  )

/** From the real thing at its place to the words on the controller's screen. */
function atItsPlace(c: ProcedureContext): Step[] {
  const input = toldWord(c, 'input') ?? 'the input'
  const most_s = toldNumber(c, 'most_s')
  return [
    look(
      'mounted',
      isLit(c) ? 'At its place: lamp and the real thing' : 'At its place: contact and the real thing',
      'The real thing at its real position, to and fro, no screwdriver in front of it: does it follow?',
    ),
    {
      id: 'levels',
      kind: 'read',
      title: 'Volts at the input',
      says: 'Meter on volts DC, from the input’s terminal to its common: once while the input should read 1, once while it should read 0.',
      gates: ['equipment'],
      fields: [
        { name: 'supply_V', label: 'Supply of the input', unit: 'V', preset: 24 },
        { name: 'one_V', label: 'Reads 1 at', unit: 'V' },
        { name: 'zero_V', label: 'Reads 0 at', unit: 'V' },
      ],
    },
    look(
      'lamp',
      'The lamp of the input',
      `On the card, at ${input}: does it follow the real thing, both ways?`,
    ),
    {
      id: 'forced',
      kind: 'read',
      title: 'The bit, both ways by the real thing',
      says: `In the controller, at ${input}. Moved by the real thing, never by a force in the controller: that proves the screen only.`,
      fields: [
        { name: 'whileSensing', label: 'Bit while it senses', unit: null },
        { name: 'whileNot', label: 'Bit while it does not', unit: null },
      ],
      gate: bits('whileSensing', 'whileNot'),
    },
    {
      id: 'cut',
      kind: 'read',
      title: 'One wire out',
      says: 'While it reads 1: a broken wire has to look like the safe side. Then the wire back.',
      fields: [{ name: 'cut', label: 'Bit with the wire out', unit: null }],
      gate: bits('cut'),
      hold: ['The wire is back in its terminal, and pulled.'],
    },
    look('words', 'The words on the screen', 'While it senses: does the controller say that it senses?'),
    ...(toldWord(c, 'alarmOn') === null
      ? []
      : [
          look(
            'alarm',
            'Its alarm',
            `Alarm when it ${toldWord(c, 'alarmOn') === 'sensed' ? 'senses' : 'does not sense'}, after ${sayNumber(toldNumber(c, 'delay_s'))} s: does it come, and go again?`,
          ),
        ]),
    ...(counts(c)
      ? [
          {
            id: 'ten',
            kind: 'read' as const,
            title: 'Ten by hand',
            says: 'The counter before and after ten strokes of the real thing: none lost, none twice.',
            fields: [
              { name: 'hand', label: 'By hand', unit: null, preset: BY_HAND },
              { name: 'counted', label: 'Counted', unit: null },
            ],
            gate: whole,
          },
        ]
      : []),
    ...(Number.isFinite(most_s)
      ? [look('limits', 'Its longest cycle', `Wait longer than ${sayNumber(most_s)} s: does the alarm come?`)]
      : []),
  ]
}

const byWhatItActsOn = (steps: readonly Step[]): Step[] =>
  steps.map((s) =>
    s.work === 'manual'
      ? {
          ...s,
          title: 'What it acts on is out of automatic',
          says: 'A pump stops, a machine starts, a trip acts when the bit moves.',
        }
      : s.work === 'check'
        ? {
            ...s,
            title: 'Does the controller show what stands there?',
            says: 'With the real thing where it is now.',
          }
        : s,
  )

export const DISCRETE_INPUT: Procedure = {
  id: 'discrete-input',
  judges: 'input',
  title: 'Discrete input, from the sensor to the bit',
  purpose:
    'The sensor in the hand and at its place, the volts at the input, its lamp, the bit forced both ways by the real thing, a wire out, the alarm, ten counted by hand.',
  minutes: 25,
  tools: (c) => [
    'meter on volts DC and ohms',
    ...(isLit(c) ? ['target of the right metal', 'supply at the label’s voltage'] : []),
  ],
  // In the workshop there is no input whose volts could be measured.
  needs: (c) =>
    c.way === 'bench'
      ? []
      : [
          {
            what: 'a meter for the volts at the input',
            low: 0,
            high: SUPPLY_MOST_V,
            unit: 'V',
            allowed: VOLTS_ALLOWED,
          },
        ],
  permissions: ['what it acts on in manual', 'bypass of its trips', 'lock-out of the machine'],
  cautions: CAUTIONS,
  advise: adviceOnInput,
  judge: judgeInput,
  steps: (c) => [
    ...byWhatItActsOn(callAndBypass(c, CAUTIONS)),
    ...(c.way === 'inService' || c.way === undefined ? [] : [inTheHand(c)]),
    ...(c.way === 'bench' ? [] : atItsPlace(c)),
    acceptOrReport('Every look, from the sensor to the words on the screen.'),
    ...(c.way === 'bench' ? [] : byWhatItActsOn(checkAndCall(c))),
  ],
}
