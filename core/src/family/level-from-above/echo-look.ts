import { allowedOf } from '../../procedure/allowed.ts'
import { at } from '../../procedure/general/common.ts'
import { acceptOrReport, beginning, ending, point } from '../../procedure/parts.ts'
import { readingsOf, valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import {
  toldNumber,
  type Advice,
  type Procedure,
  type ProcedureContext,
  type StepField,
} from '../../procedure/step.ts'
import type { Outcome } from '../../procedure/outcome.ts'
import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'

/** Below this the surface is lost at the next foam; typical, the device's own limit wins. */
const LEAST_ECHO_PCT = 30
/** An echo comes and goes by some percent: its mean is wanted to a twentieth of this, its drift to a tenth. */
const STEADY_ECHO_PCT = 20
/** Distances are the same to the millimetre. */
const SAME_M = 0.0005
/** Levels it is held against, % of the range: far enough apart to tell a span from a zero. */
const LEVELS = [20, 80] as const
/** Closer than this share of the range they are one level; typical. */
const LEAST_APART = 0.25

const ROOF = [
  'Tank roof: fall protection; never lean over an open hatch.',
  'No head or arm into a tank, silo or sump without permit, gas test and attendant.',
  'Overfill protection stays independent of the level that is worked on.',
]

const distance = (c: ProcedureContext, name: string, label: string): StepField[] => {
  const wanted = toldNumber(c, name)
  return Number.isFinite(wanted)
    ? [{ name, label, unit: 'm', wanted: () => ({ value: wanted, within: SAME_M }) }]
    : []
}
const distances = (c: ProcedureContext): StepField[] => [
  ...distance(c, 'empty_m', 'Empty distance'),
  ...distance(c, 'full_m', 'Full distance'),
]

/** What speaks against the echo: too weak, or another one in its way. */
function echoProblems(run: ProcedureRun): string[] {
  const { echo_pct = NaN } = valuesOfStep(run, 'echo')
  const other = run.done.find((d) => d.step.id === 'others')?.choice
  return [
    ...(echo_pct >= LEAST_ECHO_PCT
      ? []
      : [
          `The echo is ${sayNumber(echo_pct, 3)} %, below ${LEAST_ECHO_PCT} %: foam, a face that is not level or not clean, a stream in the beam.`,
        ]),
    ...(other === 'stays'
      ? ['Another echo stands nearer than the surface: it will be taken for the level one day.']
      : []),
  ]
}

/** What it reads off the tape at each level, in sentences, and whether one is outside what the loop allows. */
function againstTape(run: ProcedureRun): { readonly says: readonly string[]; readonly isOut: boolean } {
  const { range } = run.started.context
  const { pv: most } = allowedOf(run.started.context)
  const unit = printedUnit(range.unit)
  const read = readingsOf(run, 'asFound')
  return {
    says: read.map(
      (r) =>
        `At ${sayNumber(r.applied, 4)} ${unit} it reads ${sayNumber(r.pv - r.applied, 3)} ${unit} off the tape, allowed ±${sayNumber(most, 3)}.`,
    ),
    isOut: read.some((r) => Math.abs(r.pv - r.applied) > most),
  }
}

function echoAdvice(run: ProcedureRun): Advice {
  const problems = echoProblems(run)
  const tape = againstTape(run)
  return {
    choice: problems.length > 0 || tape.isOut ? 'report' : 'accept',
    says: [
      ...problems,
      ...tape.says,
      ...(tape.isOut
        ? [
            'The same at both levels is the empty distance; growing with the level is the full distance or the range.',
          ]
        : []),
    ],
  }
}

/** By the echo, by what else answers, and by two levels against the tape. */
function judgeEcho(run: ProcedureRun): Outcome {
  const tape = againstTape(run)
  if (tape.says.length < LEVELS.length)
    return { result: 'notDone', says: ['It was not held against the tape at two levels.'] }
  const says = [...echoProblems(run), ...tape.says]
  const { range } = run.started.context
  const levels = readingsOf(run, 'asFound').map((r) => r.applied)
  const apart = (Math.max(...levels) - Math.min(...levels)) / Math.abs(range.high - range.low)
  // A tape that was read twice at one level tells nothing of the other end.
  if (says.length === tape.says.length && !tape.isOut && apart < LEAST_APART)
    return {
      result: 'notJudged',
      says: [...says, 'Both readings are of nearly the same level: move it by a quarter of the range.'],
    }
  return { result: says.length > tape.says.length || tape.isOut ? 'out' : 'untouched', says }
}

export const LEVEL_ECHO: Procedure = {
  id: 'level-echo',
  judges: 'sensor',
  title: 'Echo, and two levels by the tape',
  purpose:
    'First whether the surface is what it hears, then the distances it was told, then its reading at two levels. Nothing is written.',
  minutes: 30,
  tools: ['tape with a weight, or a flat target', 'settings sheet of this loop', 'link to the device'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ROOF,
  advise: echoAdvice,
  judge: judgeEcho,
  steps: (c) => [
    ...beginning(c, ROOF),
    {
      id: 'echo',
      kind: 'read',
      title: 'The echo of the surface',
      says: 'How strong it is, with the vessel as it usually is: stirrer on, filling as always.',
      gates: ['still'],
      steady: 'echo_pct',
      fields: [
        {
          name: 'echo_pct',
          label: 'Echo',
          unit: '%',
          readsFrom: { signal: 'echo_pct' },
          within: STEADY_ECHO_PCT,
        },
      ],
    },
    {
      id: 'others',
      kind: 'decide',
      title: 'Does anything else answer?',
      says: 'Nozzle edge, ladder, stirrer, filling stream: each gives an echo nearer than the surface.',
      choices: [
        { value: 'none', title: 'Nothing nearer than the surface' },
        { value: 'masked', title: 'There was one; it is masked and stored' },
        { value: 'stays', title: 'One stays' },
      ],
    },
    ...(distances(c).length > 0
      ? [
          {
            id: 'distances',
            kind: 'read' as const,
            title: 'The distances that it was told',
            says: 'Read from the device, from the reference that its sheet names; not from the documents.',
            gates: ['digits'] as const,
            fields: distances(c),
          },
        ]
      : []),
    ...LEVELS.flatMap((percent, i) => point(c, 'asFound', at(c, percent), i + 1)),
    acceptOrReport(
      'The echo, what else answers, and both levels.',
      'Accept: it hears the surface',
      'Report: it goes to whoever sets it up',
    ),
    ...ending(c),
  ],
}
