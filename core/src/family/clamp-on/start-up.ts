import { callAndBypass, checkAndCall } from '../../procedure/parts.ts'
import { sayNumber } from '../../quantity/round.ts'
import { flowAdvice, flowZeroSteps, judgeFlowZero } from '../../procedure/general/flow-zero.ts'
import { HOT } from '../../procedure/general/common.ts'
import { flowing, flowKnown } from '../../procedure/general/known-flow.ts'
import { wrote, type Outcome } from '../../procedure/outcome.ts'
import { seriesOf, type ProcedureRun } from '../../procedure/run.ts'
import {
  toldNumber,
  type Advice,
  type Procedure,
  type ProcedureContext,
  type Step,
  type Values,
} from '../../procedure/step.ts'

/** Of full quality; typical, the device's own limit wins. */
const USUAL_SIGNAL_PCT = 60
/** Speed of sound and transit time off by more than this: something keyed in is not what is there, %. */
const USUAL_SOUND_PCT = 2

/** Of a liquid, where nobody told what is expected. */
const USUAL_SPEED_m_s = 1500

const knows = (c: ProcedureContext, name: string) => Number.isFinite(toldNumber(c, name))
const told = (c: ProcedureContext, name: string, usual: number) =>
  knows(c, name) ? toldNumber(c, name) : usual
const pathOf = (path: 1 | 2, name: string) => `${name}-${path}`

const scan = (c: ProcedureContext, path: 1 | 2, again: boolean): Step => ({
  id: again ? pathOf(path, 'scan-again') : pathOf(path, 'scan'),
  kind: 'read',
  series: pathOf(path, 'path'),
  title: `${path === 1 ? 'First' : 'Second'} path${again ? ', after moving' : ''}: signal, speed of sound, transit time`,
  says: 'After two minutes without a hand on the sensors. The speed of sound is the proof of wall, liner and liquid.',
  gates: ['still'],
  gatesSince: 3,
  steady: 'soundSpeed_m_s',
  fields: [
    { name: 'signal_pct', label: 'Signal', unit: '%', readsFrom: { signal: 'signal_pct' } },
    {
      name: 'soundSpeed_m_s',
      label: 'Speed of sound measured',
      unit: 'm/s',
      readsFrom: { signal: 'soundSpeed_m_s' },
      within:
        (told(c, 'soundWithin_pct', USUAL_SOUND_PCT) / 100) * told(c, 'soundSpeed_m_s', USUAL_SPEED_m_s),
    },
    ...(knows(c, 'soundSpeed_m_s')
      ? []
      : [{ name: 'expected_m_s', label: 'Speed of sound expected (from Set up)', unit: 'm/s' }]),
    ...(knows(c, 'transit_us')
      ? [{ name: 'transit_us', label: 'Transit time', unit: 'us', readsFrom: { signal: 'transit_us' } }]
      : []),
  ],
})

/** What speaks against a path's last scan, each with what to look for. */
function against(c: ProcedureContext, path: string, v: Values): string[] {
  const { signal_pct = 0, soundSpeed_m_s: speed = NaN } = v
  const expected = told(c, 'soundSpeed_m_s', v['expected_m_s'] ?? NaN)
  const within = told(c, 'soundWithin_pct', USUAL_SOUND_PCT)
  const least = told(c, 'leastSignal_pct', USUAL_SIGNAL_PCT)
  const off = 100 * (speed / expected - 1)
  const late = 100 * ((v['transit_us'] ?? NaN) / toldNumber(c, 'transit_us') - 1)
  return [
    ...(signal_pct < least
      ? [
          `${path}: the signal is ${sayNumber(signal_pct, 3)} %, below ${sayNumber(least)} %: couplant, paint, position, spacing, or the wrong pair.`,
        ]
      : []),
    ...(Math.abs(off) <= within
      ? []
      : [
          `${path}: the speed of sound is ${sayNumber(speed, 5)} m/s, ${sayNumber(off, 3)} % off ${sayNumber(expected, 5)}; within ±${sayNumber(within)} % is right. Wall, liner, liquid or temperature is not as keyed in.`,
        ]),
    ...(Number.isFinite(late) && Math.abs(late) > within
      ? [
          `${path}: the transit time is ${sayNumber(late, 3)} % off what the set-up gives: diameter, traverses or spacing.`,
        ]
      : []),
  ]
}

const PATHS = [
  [1, 'First path'],
  [2, 'Second path'],
] as const
/** The last scan of each path that was read. */
const lastScans = (run: ProcedureRun) =>
  PATHS.flatMap(([n, name]) => {
    const last = seriesOf(run, pathOf(n, 'path')).at(-1)
    return last ? [[name, last] as const] : []
  })
const problems = (run: ProcedureRun) =>
  lastScans(run).flatMap(([name, v]) => against(run.started.context, name, v))

function clampOnAdvice(run: ProcedureRun): Advice {
  const says = problems(run)
  return says.length > 0
    ? { choice: 'leave', says: [...says, 'Correct that before any zero.'] }
    : flowAdvice(run)
}

/** By signal, speed of sound and transit time of each path, by the zero, and by the flow that is known. */
function judgeStartUp(run: ProcedureRun): Outcome {
  const scans = lastScans(run)
  if (scans.length === 0) return { result: 'notDone', says: ['No signal was read.'] }
  const says = problems(run)
  if (says.length > 0) return { result: 'out', says }
  const good = `${scans.length === 1 ? 'The path has' : 'Both paths have'} signal, speed of sound${knows(run.started.context, 'transit_us') ? ' and transit time' : ''} within their limits.`
  const zero = judgeFlowZero(run)
  if (zero.result === 'out') return { result: 'out', says: [good, ...zero.says] }
  const flow = flowKnown(run)
  if (!flow)
    return {
      result: wrote(run) ? 'notVerified' : 'notJudged',
      says: [good, ...zero.says, 'Nothing was known of the flow to hold it against.'],
    }
  if (!flow.good) return { result: 'out', says: [good, flow.says] }
  return { result: wrote(run) ? 'adjusted' : 'untouched', says: [good, ...zero.says, flow.says] }
}

/** What is wrong of the scan that was taken last. */
function wrongOfLast(run: ProcedureRun): readonly string[] {
  const last = lastScans(run).at(-1)
  return last ? against(run.started.context, last[0], last[1]) : []
}

const readAndImprove = (c: ProcedureContext, path: 1 | 2, next: string): Step[] => [
  scan(c, path, false),
  {
    id: pathOf(path, 'improve'),
    kind: 'decide',
    title: 'Is the signal good enough?',
    says: 'Else move the downstream sensor in steps of 1 mm: the best signal lies at the top of the parabola.',
    saysFrom: (run) => {
      const wrong = wrongOfLast(run)
      return wrong.length > 0
        ? `${wrong.join(' ')} Look there, move the downstream sensor in steps of 1 mm, read again.`
        : 'Signal and speed of sound are within their limits.'
    },
    choices: [
      { value: 'enough', title: 'Go on with it' },
      { value: 'again', title: 'Moved or cleaned: read again' },
    ],
    recommendsFrom: (run) => (wrongOfLast(run).length > 0 ? 'again' : 'enough'),
    jumps: { enough: next },
  },
  scan(c, path, true),
]

/** What lies there, measured: too little is told before anything is started, not by a signal that never comes. */
function filmLaid(c: ProcedureContext): Pick<Step, 'fields' | 'gate'> {
  const [wanted, least] = [toldNumber(c, 'filmWanted_mm'), toldNumber(c, 'filmLeast_mm')]
  const [layers, all_mm] = [toldNumber(c, 'filmLayers'), toldNumber(c, 'film_mm')]
  return {
    fields: [
      { name: 'layers', label: 'Layers of film', unit: null, ...(layers > 0 ? { preset: layers } : {}) },
      {
        name: 'film_mm',
        label: 'All of them together',
        unit: 'mm',
        ...(all_mm > 0 ? { preset: all_mm } : {}),
      },
    ],
    gate: ({ layers: n = 0, film_mm = 0 }) =>
      n < 1
        ? 'Gas is not measured through a bare wall: lay the film first.'
        : film_mm < least
          ? `${sayNumber(film_mm)} mm of film is too little: about ${sayNumber(wanted)} mm is wanted, at least ${sayNumber(least)} mm.`
          : null,
  }
}

export const CLAMP_ON_START_UP: Procedure = {
  id: 'clamp-on-start-up',
  judges: 'sensor',
  title: 'Clamp-on start-up',
  purpose:
    'From mounted sensors to a flow one can believe: signal, speed of sound, transit time, second path, zero, and a flow that is known.',
  minutes: 45,
  uses: () => [{ item: 'couplant', sensors: 2, face_cm2: 12, film_mm: 0.5 }],
  tools: ['settings sheet of this loop', 'couplant', 'steel rule', 'cloth and degreaser'],
  permissions: ['loop in manual', 'flow stopped for the zero, if it can be'],
  cautions: HOT,
  advise: clampOnAdvice,
  judge: judgeStartUp,
  steps: (c) => [
    ...callAndBypass(c, HOT),
    {
      id: 'mounted',
      kind: 'confirm',
      title: 'Sensors where the sheet says',
      says: 'Spacing between the faces by the rule, never at 12 or 6 o’clock on a level pipe, bright and degreased under the couplant.',
      hold: [
        'The pair belongs together by its serials: A upstream, B downstream.',
        'Spacing measured on both sides and as on the sheet.',
        'No air under the faces: couplant squeezed out all round.',
        'Cables: upstream to up, downstream to down.',
      ],
    },
    ...(c.told?.['medium'] === 'gas'
      ? [
          {
            id: 'film',
            kind: 'confirm' as const,
            title: 'Film and pressure, before anything is started',
            says: `Damping film under both sensors on both paths, no bubble in it${knows(c, 'filmWanted_mm') ? `: ${sayNumber(toldNumber(c, 'filmWanted_mm'))} mm in all for sensors of ${sayNumber(toldNumber(c, 'frequency_MHz'))} MHz` : ''}; at least ${sayNumber(told(c, 'leastGauge_kPa', 300), 3)} kPa in the pipe, more behind a thick steel wall.`,
            ...(knows(c, 'filmWanted_mm') ? filmLaid(c) : {}),
            hold: [
              'Film lies under both sensors, as many layers as the sheet says, without bubbles.',
              'The pressure in the pipe is above the least that the wall needs.',
              'Its temperature sensor is on the pipe and insulated.',
            ],
          },
        ]
      : []),
    {
      id: 'keyed',
      kind: 'confirm',
      title: 'What was keyed in, read back line by line',
      says: 'A circumference for a diameter, a liner that was forgotten, another class of pipe: they all give a flow.',
      hold: ['Pipe, wall, liner, liquid, sensors and mounting read back as on the sheet.'],
    },
    {
      id: 'started',
      kind: 'confirm',
      title: 'Started: it searches its frequency and makes itself ready',
      says: 'Two minutes, no hand on the sensors.',
      hold: ['No hand is on the sensors.'],
      command: { kind: 'start' },
    },
    {
      id: 'ready',
      kind: 'wait',
      task: 'start',
      title: 'It searches its frequency, then makes itself ready',
      says: 'What it shows before it is ready is no reading.',
    },
    ...readAndImprove(c, 1, 'paths'),
    {
      id: 'paths',
      kind: 'decide',
      title: 'Is there a second path?',
      says: 'Ninety degrees round, with a pair of its own: two paths halve what swirl and a bend nearby do.',
      choices: [
        { value: 'one', title: 'One path' },
        { value: 'two', title: 'A second path' },
      ],
      recommends: c.told?.['paths'] === '2' ? 'two' : 'one',
      jumps: { one: 'canStop' },
    },
    ...readAndImprove(c, 2, 'canStop'),
    {
      id: 'canStop',
      kind: 'decide',
      title: 'Can the flow be stopped for the zero?',
      says: 'Where it cannot, the zero stays as it is and the sheet says so. A device sets one by itself only where both sensors stand on one side.',
      choices: [
        { value: 'yes', title: 'It can be stopped' },
        { value: 'no', title: 'It cannot be stopped' },
      ],
      recommends: 'yes',
      jumps: { no: 'flowing' },
    },
    ...flowZeroSteps(c),
    flowing(c),
    {
      id: 'saved',
      kind: 'confirm',
      title: 'Save the site in the device',
      says: 'What stands only on the screen is gone with the supply.',
      hold: ['Saved under the site’s name, and seen in its list.'],
    },
    ...checkAndCall(c),
  ],
}
