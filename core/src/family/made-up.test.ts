import { describe, expect, test, vi } from 'vitest'
import { answer } from '../calculation.ts'
import { calculationNamed } from '../catalogue.ts'
import { signalsAt, standIn } from '../device/stand-in.ts'
import { LoopDocument } from '../loop/document.ts'
import { factsOf } from '../loop/facts.ts'
import { judgeSetUp } from '../loop/set-up-findings.ts'
import { summarise } from '../loop/summary.ts'
import { beginSetUp, toldByWords } from '../loop/what-it-is.ts'
import { adviceFor } from '../procedure/advice.ts'
import { carefulAnswer } from '../procedure/careful-answer.ts'
import { procedureOf } from '../procedure/catalogue.ts'
import { applyProcedureEvent } from '../procedure/engine.ts'
import { contextOf } from '../loop/procedure-context.ts'
import { transmitter } from '../transmitter/transmitter.ts'
import { suggestParts } from '../wire/suggest.ts'
import { defaultPath } from '../loop/default-path.ts'

// The three lines: the made-up family in the list of families, its calculations and its procedures in theirs.
vi.mock('./calculations.ts', async (original) => {
  const there = await original<typeof import('./calculations.ts')>()
  const { bubblerCalculations } = await import('./test/bubbler/calculations.ts')
  return { FAMILY_CALCULATIONS: [...there.FAMILY_CALCULATIONS, bubblerCalculations] }
})
vi.mock('./procedures.ts', async (original) => {
  const there = await original<typeof import('./procedures.ts')>()
  const { PURGE } = await import('./test/bubbler/index.ts')
  return { ...there, allProcedures: () => [...there.allProcedures(), PURGE] }
})
vi.mock('./index.ts', async (original) => {
  const there = await original<typeof import('./index.ts')>()
  const { bubbler } = await import('./test/bubbler/index.ts')
  const FAMILIES = [...there.FAMILIES, bubbler]
  return { ...there, FAMILIES, familyOf: (id: string | null) => FAMILIES.find((f) => f.id === id) ?? null }
})

const range = { low: 0, high: 3, unit: 'm' }
const told = toldByWords('level, bubble tube', '4-20 mA')
const document = LoopDocument.parse({
  version: 4,
  trips: [],
  toKeyIn: [],
  tag: 'LT-9',
  service: 'Sump',
  area: 'Sumps',
  type: 'level, bubble tube',
  signal: '4-20 mA',
  ...told,
  path: defaultPath({ transmitter: range, squareRoot: false, receiver: range }),
  wiring: null,
  tolerance: null,
  interval_months: null,
  lastCalibrated: null,
  remark: '',
  asTyped: {},
})
const with_ = (values: Record<string, number | string>) => ({ ...document, setUp: { values } })

describe('a made-up family, added by its folder and its lines', () => {
  test('its words find it, and what they tell waits to be confirmed', () => {
    expect(told).toEqual({
      family: 'bubbler',
      setUp: { values: { gas: 'nitrogen' } },
      unconfirmed: ['setUp.values.gas'],
    })
    expect(factsOf(document).entries).toMatchObject({ gas: 'assumed', bottle_kPa: 'assumed' })
  })
  test('its form refuses what cannot be, at its entry', () => {
    const refused = LoopDocument.safeParse(with_({ depth_m: 200, colour: 'red' }))
    expect(refused.error?.issues.map((i) => i.path.join('.'))).toEqual([
      'setUp.values.depth_m',
      'setUp.values.colour',
    ])
  })
  test('its set-up computes, and is held against the signal path', () => {
    const result = judgeSetUp(factsOf(with_({ depth_m: 2 })))
    expect(result?.rows[0]?.value).toBeCloseTo(19.6133, 9)
    expect(result?.findings.map((f) => f.code)).toEqual(['SET_UP_RANGE_DIFFERS'])
    expect(beginSetUp(document).setUp?.values).toEqual({ gas: 'nitrogen' })
  })
  test('its stand-in shows its own signals, from what it was told', () => {
    const d = standIn(1, transmitter({ LSL: 0, USL: 6 }, {}, 0, 3), {
      family: 'bubbler',
      told: { depth_m: 3 },
    })
    expect(signalsAt(d, 0).map((s) => [s.name, Math.round(s.value)])).toEqual([['back_kPa', 16]])
  })
  test('its procedure runs from radio call to radio call, with its advice', () => {
    const context = contextOf(document)
    if (!context) throw new Error('no range')
    let folded = applyProcedureEvent(null, {
      body: {
        type: 'procedure.started',
        payload: { procedure: 'bubbler-purge', revision: 1, context, withDevice: false, equipment: [] },
      },
      by: 'wren',
      at: '2026-11-27T10:00:00.000Z',
    })
    while (folded.kind === 'run' && folded.run.left[0])
      folded = applyProcedureEvent(folded.run, {
        body: carefulAnswer(folded.run.left[0], {}),
        by: 'wren',
        at: '2026-11-27T10:00:00.000Z',
      })
    expect(folded).toMatchObject({ kind: 'run', run: { state: 'done' } })
    expect(folded.kind === 'run' && adviceFor(folded.run)?.says).toEqual(['Bubbles come again.'])
    expect(procedureOf('bubbler-purge')?.title).toBe('Purge the tube')
  })
  test('its calculation is in the catalogue', () => {
    const c = calculationNamed('level.bubbler')
    expect(c && answer(c, { kPa: 9.80665 })).toEqual({ kind: 'result', result: { level: 1 } })
  })
  test('its usual parts come to the wiring', () => {
    expect(suggestParts(document)['LT-9']?.kind).toBe('four-wire-passive')
  })
  test('the list can be searched for it', () => {
    expect(summarise(document, null, []).kind).toBe('Bubble tube')
  })
})
