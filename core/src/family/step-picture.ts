import type { ProcedureRun } from '../procedure/run.ts'
import { toldNumber, type AppliedBy, type ProcedureContext, type Step } from '../procedure/step.ts'
import { sayNumber } from '../quantity/round.ts'
import type { ScaleDrawing, Shape } from './scale-drawing.ts'
import { levelPicture } from './step-picture-level.ts'

const [BOX_W, BOX_H, GAP] = [166, 62, 24]

/** Boxes in a row with a wire or a hose between them; `back` closes it to a loop, `here` is framed twice. */
function chain(
  says: string,
  names: readonly string[],
  between: string,
  back: boolean,
  here: number | null = null,
): ScaleDrawing {
  const x = (i: number) => i * (BOX_W + GAP)
  const middle = BOX_H / 2
  const right = x(names.length - 1) + BOX_W
  const low = BOX_H + (back ? 44 : 4)
  const boxes = names.flatMap((text, i): Shape[] => [
    ...(i === here
      ? [{ kind: 'rect', ink: 'box', x: x(i) - 6, y: -6, w: BOX_W + 12, h: BOX_H + 12 } as const]
      : []),
    { kind: 'rect', ink: 'box', x: x(i), y: 0, w: BOX_W, h: BOX_H },
    { kind: 'label', at: [x(i) + BOX_W / 2, middle + 5], text, anchor: 'middle' },
  ])
  const wires = names.slice(1).map((_, i): Shape => {
    const from = x(i) + BOX_W
    return {
      kind: 'line',
      ink: 'flow',
      points: [
        [from, middle],
        [from + GAP, middle],
      ],
    }
  })
  const home: Shape[] = back
    ? [
        {
          kind: 'line',
          ink: 'flow',
          points: [
            [right - BOX_W / 2, BOX_H],
            [right - BOX_W / 2, low],
            [BOX_W / 2, low],
            [BOX_W / 2, BOX_H],
          ],
        },
      ]
    : []
  return {
    says,
    sketch: true,
    left: -16,
    top: -16,
    width: right + 32,
    height: low + 56,
    shapes: [
      ...wires,
      ...home,
      ...boxes,
      { kind: 'label', at: [right / 2, low + 26], text: between, anchor: 'middle' },
    ],
  }
}

/** Where the process was, by what is put in there; a manifold has its own picture. */
const SOURCES: Partial<
  Readonly<Record<AppliedBy, readonly [says: string, names: readonly string[], note: string]>>
> = {
  resistance: [
    'The decade stands at the terminals in the sensor’s place; the element is off, the well stays',
    ['Decade', 'Terminals', 'Transmitter'],
    'as many wires as the sensor has',
  ],
  millivolts: [
    'The source stands at the terminals in the sensor’s place, a thermometer beside them; the element is off, the well stays',
    ['Source, mV', 'Terminals', 'Transmitter'],
    'polarity looked at; junction measured here',
  ],
  pressure: [
    'The isolating valve is shut and vented; pump and standard stand at the test port',
    ['Pump', 'Standard', 'Transmitter'],
    'process shut, vented, proved at zero',
  ],
}

const STEPS_IN: ReadonlySet<string> = new Set([
  'pushed',
  'locked',
  'leak-2',
  'restraintLocked',
  'check',
  'unbypass',
  'auto',
  'close',
])
const STEPS_BEHIND: ReadonlySet<string> = new Set(['closed', 'vented', 'out', 'unbypass', 'auto', 'close'])

/** Where probe and valve stand once a step is done; null where no probe is moved. */
function probeStands(
  procedure: string,
  step: Step,
): { readonly in: boolean; readonly valveOpen: boolean } | null {
  switch (procedure) {
    case 'probe-insert': {
      const isIn = STEPS_IN.has(step.id)
      return { in: isIn, valveOpen: isIn || ['opened', 'leak-1'].includes(step.id) }
    }
    case 'probe-retract': {
      const behind = STEPS_BEHIND.has(step.id)
      return { in: !behind && step.id !== 'drawn', valveOpen: !behind }
    }
    case 'gas-verification':
      return { in: false, valveOpen: false }
    default:
      return null
  }
}

/** The stem in its fittings at one of its marks, the valve open or shut. */
function probe(
  c: ProcedureContext,
  stands: { readonly in: boolean; readonly valveOpen: boolean },
): ScaleDrawing | null {
  const [inserted, clear] = [toldNumber(c, 'inserted_mm'), toldNumber(c, 'clear_mm')]
  if (!(inserted > clear && clear > 0)) return null
  const way = inserted - clear
  const depth = stands.in ? inserted : clear
  const [valve, pipe] = [clear + 0.06 * way, clear + 0.5 * way]
  const w = 0.09 * inserted
  const bottom = inserted + 0.35 * way
  const rect = (
    ink: 'box' | 'liner' | 'plate' | 'stem' | 'wall' | 'fluid',
    x: number,
    y: number,
    wide: number,
    h: number,
  ): Shape => ({
    kind: 'rect',
    ink,
    x,
    y,
    w: wide,
    h,
  })
  const half = 0.9 * inserted
  const state = `${stands.in ? 'inserted' : 'clear of the valve'}, mark at ${sayNumber(depth, 4)} mm; the valve is ${stands.valveOpen ? 'open' : 'shut'}`
  return {
    says: `Once this step is done the probe is ${state}`,
    sketch: true,
    left: -half,
    top: -0.28 * inserted,
    width: 2 * half + 0.35 * inserted,
    height: bottom + 0.36 * inserted,
    shapes: [
      rect('fluid', -half, pipe, 2 * half, bottom - pipe),
      rect('wall', -half, pipe - 0.03 * inserted, 2 * half, 0.03 * inserted),
      rect('wall', -half, bottom, 2 * half, 0.03 * inserted),
      rect('liner', -1.5 * w, 0, 3 * w, valve),
      rect('box', -2.4 * w, valve, 4.8 * w, 0.24 * way),
      rect('liner', -1.5 * w, valve + 0.24 * way, 3 * w, Math.max(0, pipe - valve - 0.24 * way)),
      ...(stands.valveOpen ? [] : [rect('plate', -2.4 * w, valve + 0.1 * way, 4.8 * w, 0.05 * way)]),
      rect('stem', -w / 2, -0.2 * inserted, w, depth + 0.2 * inserted),
      {
        kind: 'label',
        at: [2.8 * w, valve + 0.16 * way],
        text: stands.valveOpen ? 'open' : 'shut',
        anchor: 'start',
      },
      { kind: 'label', at: [2 * w, 0.05 * inserted], text: 'face', anchor: 'start' },
      {
        kind: 'dimension',
        from: [half + 0.06 * inserted, 0],
        to: [half + 0.06 * inserted, depth],
        text: `${sayNumber(depth, 4)} mm`,
      },
      {
        kind: 'line',
        ink: 'flow',
        points: [
          [-0.9 * half, bottom - 0.12 * way],
          [-0.5 * half, bottom - 0.12 * way],
        ],
      },
    ],
  }
}

const FROM_SENSOR_TO_BIT = ['Sensor', 'Terminal', 'Input card', 'Controller'] as const
/** Where a step of a discrete input looks, and at what. */
const LOOKS_AT: Readonly<Record<string, readonly [box: number, what: string]>> = {
  hand: [0, 'in the hand, before it is mounted'],
  mounted: [0, 'at its place, by the real thing'],
  levels: [1, 'volts DC, terminal to common'],
  lamp: [2, 'the lamp of the input'],
  forced: [3, 'the bit, both ways by the real thing'],
  cut: [1, 'one wire out: the bit reads 0'],
  words: [3, 'the words on the screen'],
  alarm: [3, 'its alarm'],
  ten: [3, 'ten by hand, ten counted'],
  limits: [3, 'a cycle that is too long'],
}

const ON_THE_LOOP: ReadonlySet<string> = new Set(['output-trim', 're-range', 'loop-check'])
/** From connecting to the step before it is taken off again. */
function isConnected(run: ProcedureRun, step: Step): boolean {
  const works = [...run.done.map((d) => d.step.work), step.work]
  return works.includes('connect') && !works.includes('disconnect')
}

/** The picture of a step as it is once it is done: probe and valve, the meter in its loop, what stands in the process’s place. */
export function stepPicture(run: ProcedureRun, step: Step, c: ProcedureContext): ScaleDrawing | null {
  const stands = probeStands(run.started.procedure, step)
  if (stands) return probe(c, stands)
  const look = c.discrete ? LOOKS_AT[step.id] : undefined
  if (look) {
    const [box, what] = look
    return chain(`Looked at here: ${what}`, FROM_SENSOR_TO_BIT, what, false, box)
  }
  if (c.discrete) return null
  if (c.appliedBy === 'level' && isConnected(run, step)) return levelPicture(run, step, c)
  if (ON_THE_LOOP.has(run.started.procedure)) {
    const held = step.holdCurrent_mA
    if (held === undefined) return null
    return chain(
      held === null
        ? 'The output follows the measurement again'
        : `The meter in series; the output holds ${held} mA`,
      ['Supply', 'Transmitter', 'Meter, mA', 'Receiver'],
      held === null ? 'follows the measurement' : `${held} mA all the way round`,
      true,
    )
  }
  const source = SOURCES[c.appliedBy ?? 'pressure']
  if (!source || (c.manifold && (c.appliedBy ?? 'pressure') === 'pressure') || !isConnected(run, step))
    return null
  return chain(...source, false)
}
