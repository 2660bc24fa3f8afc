import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { signalsAt, standIn } from '../device/stand-in.ts'
import { FAMILIES } from '../family/index.ts'
import { worstOf } from '../finding.ts'
import { flowAdvice } from '../procedure/general/flow-zero.ts'
import type { ProcedureRun } from '../procedure/run.ts'
import { documentedConfiguration } from '../record/configuration-compare.ts'
import { auditPath } from '../scale/audit.ts'
import { stageOf } from '../signal/stage.ts'
import { transmitter } from '../transmitter/transmitter.ts'
import { convertRangeEnd } from '../quantity/units.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { toleranceAt } from '../verify/tolerance.ts'
import { factsOf } from './facts.ts'
import { contextOf } from './procedure-context.ts'
import { judgeSetUp } from './set-up-findings.ts'
import { summarise } from './summary.ts'
import { randomLoop, shownValues } from './test/random-loop.ts'

const LOOPS = { numRuns: 25 }
const families = FAMILIES.map((f) => [f.id, f] as const)

describe.each(families)('%s: two benches never disagree', (_id, family) => {
  test('the square root: Set up says what Scale says, and the list what both say', () => {
    fc.assert(
      fc.property(randomLoop(family), (d) => {
        const facts = factsOf(d)
        const ofScale = auditPath(d.path, facts.needsRoot, d.tolerance).find((f) => f.code.startsWith('SQRT'))
        expect(facts.root?.finding?.code).toBe(ofScale?.code)
        const ofSetUp = judgeSetUp(factsOf(d))?.findings.find((f) => f.code.startsWith('SQRT'))
        expect(ofSetUp?.says ?? ofScale?.says).toBe(ofScale?.says)
        expect(summarise(d, null, []).parts.scale === 'stop').toBe(
          worstOf(auditPath(d.path, facts.needsRoot, d.tolerance)) === 'stop',
        )
      }),
      LOOPS,
    )
  })
  test('the range: Trim, Verify, the documents and the stand-in have the one of the path', () => {
    fc.assert(
      fc.property(randomLoop(family), (d) => {
        const facts = factsOf(d)
        const { low, high } = facts.range ?? { low: NaN, high: NaN }
        const documented = documentedConfiguration(d)
        expect(contextOf(d)?.range).toEqual(facts.range)
        expect(loopScale(d.path)?.input).toEqual(facts.range)
        expect([documented?.LRV, documented?.URV]).toEqual([low, high])
        expect(facts.limits?.low).toBeLessThanOrEqual(Math.min(low, high))
        expect(facts.limits?.high).toBeGreaterThanOrEqual(Math.max(low, high))
      }),
      LOOPS,
    )
  })
  test('what is allowed: Trim and Verify allow the same', () => {
    fc.assert(
      fc.property(randomLoop(family), (d) => {
        const { allowed, range } = factsOf(d)
        const { low, high } = range ?? { low: NaN, high: NaN }
        const span = Math.abs(high - low)
        // Without a tolerance Trim works with a usual one, and nothing is called allowed.
        expect(contextOf(d)?.tolerance_pct).toBeCloseTo(allowed?.top_pct ?? 0.5, 9)
        expect(allowed?.at(high)).toBe(d.tolerance ? toleranceAt(d.tolerance, span, high) : undefined)
        expect(allowed?.top_mA ?? 0).toBeCloseTo((16 * (allowed?.at(high) ?? 0)) / span, 9)
      }),
      LOOPS,
    )
  })
  test('entries: what nobody typed or confirmed is assumed, and only what is shown is asked for', () => {
    fc.assert(
      fc.property(randomLoop(family), (d) => {
        const { entries, setUpBegun } = factsOf(d)
        const typed = Object.keys(d.setUp?.values ?? {}).filter(
          (n) => !d.unconfirmed.includes(`setUp.values.${n}`),
        )
        expect(setUpBegun).toBe(typed.length > 0)
        for (const [name, state] of Object.entries(entries))
          expect([name, state]).toEqual([name, typed.includes(name) ? 'typed' : 'assumed'])
      }),
      LOOPS,
    )
  })
  test('damping, pressure kind and manifold are those of the form, in every bench', () => {
    fc.assert(
      fc.property(randomLoop(family), (d) => {
        const facts = factsOf(d)
        const form = shownValues(family, d)
        const context = contextOf(d)
        expect([context?.tau_s, context?.kind, context?.manifold]).toEqual([
          facts.damping_s,
          facts.pressureKind,
          facts.manifold,
        ])
        expect(facts.damping_s).toBe(form['damping_s'] ?? 1)
        expect(facts.manifold ?? 'none').toBe(form['manifold'] ?? 'none')
        const sheet = judgeSetUp(factsOf(d))?.sheet.find((l) => l.says === 'Damping')?.value
        expect(Number.parseFloat(sheet ?? String(facts.damping_s))).toBeCloseTo(facts.damping_s, 0)
      }),
      LOOPS,
    )
  })
  test('a range is offered to the path only where somebody typed all of it', () => {
    fc.assert(
      fc.property(randomLoop(family), (d) => {
        const facts = factsOf(d)
        const offered = (judgeSetUp(factsOf(d))?.findings ?? []).filter((f) =>
          f.fix?.set.some((s) => s.path.startsWith('path.transmitter.') && !s.path.endsWith('kind')),
        )
        const assumed = (family.rangeEntries?.(facts.values) ?? []).filter(
          (n) => facts.entries[n] !== 'typed',
        )
        expect(offered.length === 0 || assumed.length === 0).toBe(true)
      }),
      LOOPS,
    )
  })
})

describe('a healthy device shows what Set up expects', () => {
  test('sound speed and transit time of a clamp-on: natural gas is no water', () => {
    const [clampOn] = FAMILIES.filter((f) => f.id === 'clamp-on')
    if (!clampOn) throw new Error('no clamp-on')
    fc.assert(
      fc.property(randomLoop(clampOn), (d) => {
        const rows = judgeSetUp(factsOf(d))?.rows ?? []
        const value = (label: string) => Number(rows.find((r) => r.label === label)?.value)
        const device = standIn(1, transmitter({ LSL: 0, USL: 10 }, {}, 0, 10), {
          family: 'clamp-on',
          told: d.setUp?.values ?? {},
        })
        const shown = (name: string) => signalsAt(device, 3).find((s) => s.name === name)?.value ?? NaN
        const expected = value('Sound speed expected')
        expect(Math.abs(shown('soundSpeed_m_s') / expected - 1) < 0.003).toBe(Number.isFinite(expected))
        const fluid = factsOf(d).fluid
        const known = fluid?.kind === 'state' ? fluid.soundSpeed_m_s : NaN
        expect(Number.isFinite(expected) ? known : expected).toBe(expected)
        expect(shown('transit_us')).toBe(value('Transit time expected'))
      }),
      { numRuns: 60 },
    )
  })
})

describe('a clamp-on’s zero: Trim leaves alone what Set up leaves alone', () => {
  const [clampOn] = FAMILIES.filter((f) => f.id === 'clamp-on')
  const VERDICT = { ZERO_FINE: 'leave', ZERO_WORTH_IT: 'adjust', ZERO_IN_FLOW: 'leave' } as const
  test.each([0.004, 0.0099, 0.03, 0.0501, 0.099, 0.2, 0.6])('%d m/s with the flow stopped', (zero_m_s) => {
    if (!clampOn) throw new Error('no clamp-on')
    const document = (values: Readonly<Record<string, number | string>>) => ({
      tag: 'FT-1',
      family: 'clamp-on',
      setUp: { values: { ...values, zero_m_s } },
      path: [
        {
          kind: 'transmitter' as const,
          range: { low: 0, high: 500, unit: 'm3/h' },
          transfer: { kind: 'linear' as const },
        },
      ],
      tolerance: null,
      trips: [],
      unconfirmed: [],
    })
    for (const fluid of ['water', 'natural_gas']) {
      const d = document({ fluid, gauge_kPa: 900 })
      const code = judgeSetUp(factsOf(d))?.findings.find((f) => f.code.startsWith('ZERO_'))?.code
      const context = contextOf(d)
      const bore_m2 = (Math.PI / 4) * 0.30474 ** 2
      const residual = convertRangeEnd(zero_m_s * bore_m2 * 3600, 'm3/h', 'm3/h')
      const pv = residual.kind === 'value' ? residual.value : NaN
      const run = {
        started: { context },
        done: [{ step: { id: 'asFound-1-read' }, values: { pv, noise: 0 } }],
      } as unknown as ProcedureRun
      expect([fluid, flowAdvice(run).choice]).toEqual([fluid, VERDICT[code as keyof typeof VERDICT]])
    }
  })
})

test('a loop of which nobody has told what it is says so', () => {
  const facts = factsOf({ family: null, setUp: null, path: [], tolerance: null, trips: [], unconfirmed: [] })
  expect(facts).toMatchObject({ family: null, needsRoot: null, entries: {}, range: null, allowed: null })
  expect(stageOf([], 'transmitter')).toBeUndefined()
})
