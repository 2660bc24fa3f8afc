import { recommendedOf } from './run.ts'
import { describe, expect, test } from 'vitest'
import type { StandIn } from '../device/stand-in.ts'
import { Generator } from '../statistics/generator.ts'
import type { TransmitterErrors } from '../transmitter/transmitter.ts'
import { adviceFor } from './advice.ts'
import { outcomeOf } from './closing.ts'
import type { EquipmentFunction } from '../verify/equipment-spec.ts'
import { USUAL_GATES } from './gate-numbers.ts'
import { missingInstruments } from './instruments.ts'
import { RESULT_STATE, type Result } from './outcome.ts'
import { beginJob, doStep, happen, perform, type Habits, type Job } from './test/technician.ts'
import { contextFor, deviceFor } from './test/loops.ts'
import { trueError_pct } from './test/true-error.ts'

/** What may be wrong with a device, by how far; the tolerance is 0.5 % of span. */
const FAULTS: Readonly<Record<string, (size: number) => Partial<TransmitterErrors>>> = {
  healthy: () => ({}),
  'zero shifted': (s) => ({ z: 0.01 * s }),
  'span off': (s) => ({ g: 0.012 * s }),
  'output off': (s) => ({ zo: 0.12 * s }),
  'output span off': (s) => ({ go: 0.01 * s }),
  hanging: (s) => ({ hys: 0.03 * Math.abs(s) }),
}
const KINDS = ['gauge', 'differential', 'level', 'pt100', 'couple'] as const
const TRIMS: Readonly<Record<(typeof KINDS)[number], readonly string[]>> = {
  gauge: ['zero-trim', 'sensor-trim', 'field-zero'],
  differential: ['zero-trim', 'sensor-trim', 'field-zero'],
  level: ['sensor-trim'],
  pt100: ['temperature-trim'],
  couple: ['temperature-trim'],
}

interface Outcome {
  readonly what: string
  readonly result: Result | undefined
  readonly true_pct: number
}
/** A job drawn from a seed: a device, a fault, a procedure, over the link or typed. */
function drawn(seed: number): Outcome {
  const g = new Generator(seed)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(g.uniform() * list.length)] as T
  const kind = pick(KINDS)
  const fault = pick(Object.keys(FAULTS))
  const procedure = pick(TRIMS[kind])
  const size = (g.uniform() < 0.5 ? -1 : 1) * (0.3 + g.uniform())
  const linked = g.uniform() < 0.5
  const creeping = g.uniform() < 0.15
  const noisy = g.uniform() < 0.1
  const device = deviceFor(kind, seed, FAULTS[fault]?.(size) ?? {})
  const job = beginJob(
    procedure,
    contextFor(kind),
    { ...device, noise: device.noise * (noisy ? 30 : 1) },
    { withDevice: linked },
  )
  const habits: Habits = creeping
    ? {
        disturb: (d) => ({
          ...d,
          transmitter: {
            ...d.transmitter,
            errors: {
              ...d.transmitter.errors,
              z:
                d.transmitter.errors.z +
                4e-4 * (job.run.started.context.range.high - job.run.started.context.range.low),
            },
          },
        }),
      }
    : {}
  // A judgement is right or wrong of the device as it was when it was read last; what creeps goes on afterwards.
  let true_pct = trueError_pct(job.device, job.run)
  for (let i = 0; i < 150 && job.run.left[0] && doStep(job, habits); i++)
    if (['read', 'write'].includes(job.run.done.at(-1)?.step.kind ?? ''))
      true_pct = trueError_pct(job.device, job.run)
  return {
    what: `${kind}, ${procedure}, ${fault} ${size.toFixed(2)}${creeping ? ', creeping' : ''}${noisy ? ', noisy' : ''}, ${linked ? 'linked' : 'typed'}`,
    result: outcomeOf(job.run)?.result,
    true_pct,
  }
}
const isGood = (result: Result | undefined) => result !== undefined && RESULT_STATE[result] === 'good'

describe('jobs at devices that nobody has told what is wrong with them', () => {
  const JOBS = 1000
  const T = 0.5
  const all = Array.from({ length: JOBS }, (_, i) => drawn(1000 + i))
  test('good is never said of a device that is not', () => {
    expect(all.filter((o) => isGood(o.result) && o.true_pct > 1.15 * T)).toEqual([])
  })
  test('the verdict is right in 98 of 100 that came to one', () => {
    const clear = all.filter(
      (o) =>
        o.result !== undefined &&
        ['untouched', 'adjusted', 'out'].includes(o.result) &&
        Math.abs(o.true_pct - T) > 0.2 * T,
    )
    const wrong = clear.filter((o) => isGood(o.result) !== o.true_pct <= T)
    expect(clear.length).toBeGreaterThan(JOBS / 3)
    expect(wrong.length / clear.length, JSON.stringify(wrong, null, 1)).toBeLessThanOrEqual(0.02)
  })
})

describe('the worst mistakes, each told', () => {
  const job = (
    kind: string,
    id: string,
    errors: Partial<TransmitterErrors> = {},
    more: Partial<StandIn> = {},
  ) => beginJob(id, contextFor(kind), deviceFor(kind, 5, errors, more))
  const until = (j: Job, id: string) => {
    for (let i = 0; i < 150 && j.run.left[0] && j.run.left[0].id !== id; i++) doStep(j)
    expect(j.run.left[0]?.id).toBe(id)
    return j
  }
  test('a zero is not written four samples after the input moved', () => {
    const j = until(job('gauge', 'zero-trim', { z: 0.01 }), 'zero')
    expect(doStep(j, { patience_s: 0, pace_s: 1 })).toBe(false)
    expect(j.refused.at(-1)).toMatch(/10 samples since it moved|s at this input/)
    expect(doStep(j)).toBe(true)
  })
  test('a zero is not written with the pump still at the upper end', () => {
    const j = until(job('gauge', 'zero-trim', { z: 0.01 }), 'zero-apply')
    happen(j, {
      type: 'procedure.step',
      payload: {
        step: 'zero-apply',
        ticks: 0,
        values: {},
        choice: null,
        confirmed: false,
        note: '',
        confirmedBy: '',
      },
    })
    j.device = { ...j.device, standard: 6, motion: { ...j.device.motion, at_s: j.t_s - 60, from: 6, to: 6 } }
    expect(doStep(j, { patience_s: 20 })).toBe(false)
    expect(j.refused.at(-1)).toMatch(/waits for 0 bar g: the standard shows 5.99/)
  })
  test('going on against a gate needs a reason, stands in the record and is never good', () => {
    const j = until(job('gauge', 'zero-trim', { z: 0.01 }), 'asLeft-5-read')
    const step = j.run.left[0]
    const values = { applied: 0, pv: 0, mA: 4 }
    const payload = {
      step: step?.id ?? '',
      ticks: 0,
      values,
      choice: null,
      confirmed: false,
      note: '',
      confirmedBy: '',
    }
    expect(happen(j, { type: 'procedure.step', payload })).toBe(false)
    expect(
      happen(j, {
        type: 'procedure.step',
        payload: {
          ...payload,
          overruled: { gates: ['input', 'still', 'limit', 'reading'], reason: 'pump leaks' },
        },
      }),
    ).toBe(true)
    perform(j)
    expect(outcomeOf(j.run)).toMatchObject({ result: 'notVerified' })
    expect(outcomeOf(j.run)?.says.join(' ')).toMatch(/against a gate: pump leaks/)
  })
  test('a meter 6 % high at the nozzle is out, whoever accepts it', () => {
    const habits: Habits = {
      chooses: { decide: 'accept' },
      knows: (_s, f, j2) => (f.name === 'pv' ? 1.06 * (j2.device.standard ?? 0) : undefined),
    }
    const j = beginJob('gas-verification', contextFor('thermal'), deviceFor('thermal', 5), {
      withDevice: false,
    })
    perform(j, habits)
    expect(outcomeOf(j.run)).toMatchObject({ result: 'out' })
    expect(outcomeOf(j.run)?.says[0]).toMatch(/6(\.\d+)? %.*too much/)
  })
  test('a start-up with 12 % signal, or a speed of sound 11 % off, is out', () => {
    for (const [name, factor] of [
      ['signal_pct', 0.14],
      ['soundSpeed_m_s', 1.11],
    ] as const) {
      const j = beginJob('clamp-on-start-up', contextFor('clamp-on'), deviceFor('clamp-on', 5), {
        withDevice: false,
      })
      perform(j, {
        knows: (_s, f) =>
          f.name === name
            ? factor * (name === 'signal_pct' ? 84 : Number(j.run.started.context.told?.['soundSpeed_m_s']))
            : undefined,
      })
      expect([name, outcomeOf(j.run)?.result]).toEqual([name, 'out'])
    }
  })
  test.each([
    ['a weak signal', 8, 'again'],
    ['a good one', 84, 'enough'],
  ])('%s: what is recommended follows from it', (_, signal_pct, recommended) => {
    const j = beginJob('clamp-on-start-up', contextFor('clamp-on'), deviceFor('clamp-on', 5), {
      withDevice: false,
    })
    const habits: Habits = { knows: (_s, f) => (f.name === 'signal_pct' ? signal_pct : undefined) }
    for (let i = 0; i < 30 && !j.run.left[0]?.recommendsFrom; i++) doStep(j, habits)
    const step = j.run.left[0]
    expect(step && recommendedOf(j.run, step)).toBe(recommended)
  })
  test('over the link a nozzle is read once it stands by the scale of the check, not of the process', () => {
    const c = { ...contextFor('thermal'), range: { low: 0, high: 2400, unit: 'kg/h' } }
    const d = deviceFor('thermal', 5)
    // From the process down to a hundredth of the range: what is left of the way is more than the check allows.
    const j = beginJob('gas-verification', c, { ...d, applied: { ...d.applied, damping_s: 8 } })
    const knows: Habits['knows'] = (step, f) =>
      f.name === 'p0' ? { 'gas-1': 300, 'gas-2': 500, 'gas-3': 700, 'gas-4': 900 }[step.id] : undefined
    perform(j, { knows, patience_s: 300 })
    const seen = j.run.done.filter((x) => x.step.id.startsWith('gas-')).map((x) => x.seen)
    expect(seen).toHaveLength(4)
    for (const s of seen) expect(Math.abs(s?.pvSlope ?? NaN) * (s?.window_s ?? NaN)).toBeLessThan(0.1)
  })
  test('a health check at full flow is never the reference', () => {
    const j = until(job('coriolis', 'health-check'), 'asFound-1-read')
    j.device = {
      ...j.device,
      standard: null,
      motion: { ...j.device.motion, at_s: j.t_s - 60, from: 7500, to: 7500 },
    }
    expect(doStep(j, { patience_s: 20 })).toBe(false)
    expect(j.refused.at(-1)).toMatch(/waits for the flow to stop: it reads/)
  })
  test('the first health check is the reference, the second is held against it', () => {
    const first = perform(job('coriolis', 'health-check'))
    expect(outcomeOf(first.run)?.result).toBe('reference')
    const next = beginJob('health-check', contextFor('coriolis'), first.device)
    next.t_s = first.t_s + 60
    expect(outcomeOf(perform(next).run)?.result).toBe('untouched')
    const worn = beginJob('health-check', contextFor('coriolis'), { ...first.device, wear: 0.8 })
    worn.t_s = first.t_s + 60
    perform(worn, { chooses: { decide: 'accept' } })
    expect(outcomeOf(worn.run)?.result).toBe('look')
  })
  test.each([
    [3.9, undefined, 'untouched'],
    [8, undefined, 'look'],
    [8, 10, 'untouched'],
    [3, 2, 'look'],
  ])('figures changed by %d %%, the plant lets them by %s: %s', (change_pct, health_pct, result) => {
    const { run } = perform(job('coriolis', 'health-check'))
    const done = run.done.map((d) =>
      d.step.id === 'result' ? { ...d, values: { ...d.values, before: 1, change_pct } } : d,
    )
    const gates = health_pct === undefined ? {} : { gates: { ...USUAL_GATES, health_pct } }
    expect(outcomeOf({ ...run, done, started: { ...run.started, ...gates } })?.result).toBe(result)
  })
  test('the pH of a buffer is not taken for the process', () => {
    const j = until(job('pH', 'ph-buffers'), 'processAgain')
    j.device = { ...j.device, standard: 7 }
    expect(doStep(j, { patience_s: 5 })).toBe(false)
    expect(j.refused.at(-1)).toMatch(/still stands in what was applied/)
  })
  test('pH is written into the sensor, and read right in a buffer since', () => {
    const j = job('pH', 'ph-buffers', { z: 0.02, g: 0.01 })
    perform(j)
    expect(outcomeOf(j.run)?.result).toBe('adjusted')
    expect(trueError_pct(j.device, j.run)).toBeLessThan(0.5)
  })
  test.each([
    ['field-zero', /Its zero input is not 0/],
    ['zero-trim', /Trimmed to 0 the legs would be measured as level/],
  ])('%s is not begun on a loop whose legs stand at its zero', (id, says) => {
    const context = {
      ...contextFor('gauge'),
      zeroInput: { value: -0.196, says: 'At 0 % the legs stand at -19.6 kPa.' },
    }
    expect(() => beginJob(id, context, deviceFor('gauge', 5))).toThrow(says)
  })
  test('memory lost: a decimal that was dropped is caught at the read-back, a bore in another unit at the plate', () => {
    const knows: Habits['knows'] = (step, f) =>
      f.name === 'flowFactor' ? (step.id === 'plate' ? 31.2345 : 31.234) : undefined
    const j = beginJob('memory-lost', contextFor('coriolis'), deviceFor('coriolis', 5), {
      withDevice: false,
    })
    for (let i = 0; i < 10 && doStep(j, { knows, patience_s: 3 }); i++);
    expect(j.run.left[0]?.id).toBe('readBack')
    expect(j.refused.at(-1)).toMatch(/Flow factor 31\.234, not 31\.2345/)
    const other = beginJob('memory-lost', contextFor('coriolis'), deviceFor('coriolis', 5), {
      withDevice: false,
    })
    perform(other, { knows: (_s, f) => (f.name === 'bore' ? 2.5 : undefined) })
    expect(outcomeOf(other.run)?.result).toBe('out')
    expect(outcomeOf(other.run)?.says[0]).toMatch(/Tube bore, mm: 2\.5 where 25 belongs/)
  })
  test('a probe goes in to its mark and no further; a leak is out, however far it went', () => {
    const context = {
      ...contextFor('thermal'),
      told: {
        ...contextFor('thermal').told,
        inserted_mm: 412,
        clear_mm: 148,
        force_N: 254,
        needsRestraint: 'yes',
      },
    }
    const begin = () => beginJob('probe-insert', context, deviceFor('thermal', 5), { withDevice: false })
    const short = begin()
    for (
      let i = 0;
      i < 20 && doStep(short, { knows: (_s, f) => (f.name === 'mark_mm' ? 380 : undefined), patience_s: 2 });
      i++
    );
    expect(short.run.left[0]?.id).toBe('pushed')
    expect(short.refused.at(-1)).toMatch(/waits for 412 mm; 380 mm is set/)
    const leaks = perform(begin(), { chooses: { 'leak-2': 'leaks' } })
    expect(outcomeOf(leaks.run)).toMatchObject({ result: 'out' })
    const good = perform(begin())
    expect(outcomeOf(good.run)).toMatchObject({ result: 'asPlanned' })
    expect(good.run.done.find((d) => d.step.id === 'restraint')?.step.says).toMatch(
      /254 N: a hand does not hold that/,
    )
  })
  test('good by a limit that was typed wider, or that nobody told, is not judged', () => {
    const gas = beginJob('gas-verification', contextFor('thermal'), deviceFor('thermal', 5), {
      withDevice: false,
    })
    perform(gas, {
      knows: (_s, f, j) =>
        f.name === 'ofReading_pct' ? 20 : f.name === 'pv' ? 1.06 * (j.device.standard ?? 0) : undefined,
    })
    expect(outcomeOf(gas.run)).toMatchObject({ result: 'notJudged' })
    expect(outcomeOf(gas.run)?.says.at(-1)).toMatch(/wider limits than the set-up’s, 1 % of reading/)
    const noisy = beginJob('flow-zero', contextFor('coriolis'), deviceFor('coriolis', 5), {
      withDevice: false,
    })
    perform(noisy, { knows: (_s, f) => (f.name === 'noise' ? 4 : f.name === 'pv' ? 200 : undefined) })
    expect(outcomeOf(noisy.run)?.result).not.toBe('untouched')
    const untold = { ...contextFor('gauge'), toleranceAssumed: true as const }
    const j = perform(beginJob('zero-trim', untold, deviceFor('gauge', 5, { z: 0.01 })))
    expect(outcomeOf(j.run)).toMatchObject({ result: 'notVerified' })
    expect(outcomeOf(j.run)?.says.join(' ')).toMatch(/Enter its tolerance/)
  })
  test('without operators the gloves and the permit are still told', () => {
    const j = beginJob('field-zero', contextFor('differential'), deviceFor('differential', 5), {
      way: 'commissioning',
      notInServiceBy: 'Sandpiper',
    })
    expect(j.run.left[0]?.id).toBe('cautions')
    expect(outcomeOf(perform(j).run)).not.toBeNull()
  })
  test('an instrument whose certificate states no uncertainty covers nothing', () => {
    const needs = [{ what: 'a meter', low: 4, high: 20, unit: 'mA', allowed: 0.08 }]
    const meter = (uncertainty: EquipmentFunction['uncertainty']) => [
      {
        name: 'Meter',
        functions: [{ low: 0, high: 24, unit: 'mA', uncertainty, drift: null, resolution: 0 }],
      },
    ]
    expect(missingInstruments(needs, meter(null))[0]).toMatch(/states no uncertainty/)
    expect(missingInstruments(needs, meter({ pctReading: 0, pctRange: 0, absolute: 0.04 }))[0]).toMatch(
      /only 2 times/,
    )
    expect(missingInstruments(needs, meter({ pctReading: 0, pctRange: 0, absolute: 0.002 }))).toEqual([])
  })
  test('left alone while it is out: out', () => {
    const j = job('gauge', 'zero-trim', { z: 0.02 })
    perform(j, { chooses: { decide: 'leave' } })
    expect(outcomeOf(j.run)?.result).toBe('out')
  })
  test('a field zero ends as adjusted, not verified, and takes ten steps', () => {
    const j = perform(job('differential', 'field-zero', { z: 0.004 }))
    expect(j.run.done).toHaveLength(10)
    expect(outcomeOf(j.run)?.result).toBe('notVerified')
  })
  test('stopped after a stored trim that was proved good: nothing is undone', () => {
    const j = until(job('gauge', 'zero-trim', { z: 0.008 }), 'disconnect')
    happen(j, { type: 'procedure.abortAsked', payload: { reason: 'storm' } })
    expect(j.run.left.map((s) => s.id)).not.toContain('abort-revertTrim')
    const early = until(job('gauge', 'zero-trim', { z: 0.008 }), 'asLeft-1-apply')
    happen(early, { type: 'procedure.abortAsked', payload: { reason: 'storm' } })
    expect(early.run.left[0]?.id).toBe('abort-keep')
    doStep(early, { chooses: { 'abort-keep': 'keep' } })
    expect(early.run.left.map((s) => s.id)).not.toContain('abort-revertTrim')
    perform(early)
    expect(outcomeOf(early.run)?.result).toBe('notVerified')
  })
  test('against the advice only with a reason', () => {
    const j = until(job('gauge', 'zero-trim'), 'decide')
    expect(adviceFor(j.run)?.choice).toBe('leave')
    const payload = {
      step: 'decide',
      ticks: 0,
      values: {},
      choice: 'adjust',
      confirmed: false,
      note: '',
      confirmedBy: '',
    }
    expect(happen(j, { type: 'procedure.step', payload })).toBe(false)
    expect(j.refused.at(-1)).toMatch(/write down why/)
  })
  test('not in service only by name; then no operator is asked and the valves stay', () => {
    expect(() =>
      beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 5), { way: 'commissioning' }),
    ).toThrow(/by name/)
    const j = beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 5, { z: 0.008 }), {
      way: 'commissioning',
      notInServiceBy: 'Sandpiper',
    })
    const ids = j.run.left.map((s) => s.id)
    expect(ids).not.toEqual(expect.arrayContaining(['notify', 'manual', 'bypass', 'auto']))
    expect(ids).toEqual(expect.arrayContaining(['isolate', 'vent', 'restore']))
    expect(outcomeOf(perform(j).run)?.result).toBe('adjusted')
  })
})
