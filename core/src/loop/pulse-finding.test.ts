import { describe, expect, test } from 'vitest'
import type { Values } from '../family/test/through-form.ts'
import { auditLoop } from '../scale/audit-loop.ts'
import { FREQUENCY_STAGE, pathOf } from './test/frequency-path.ts'
import { factsOf, type FactsOf } from './facts.ts'
import { withField } from './field-path.ts'
import { withStage } from './optional-stages.ts'
import { pulseFinding } from './pulse-finding.ts'
import { judgeSetUp } from './set-up-findings.ts'

const doc = (family: string, values: Values, path: FactsOf['path']): FactsOf => ({
  family,
  setUp: { values },
  path,
  tolerance: null,
  trips: [],
  unconfirmed: [],
})
const CHANNELS = { flow_m3h: 180, ch1: 'active', ch2: 'frequency', ch2_top_Hz: 1000 }

describe('the frequency output of a device against the signal path', () => {
  test.each<[why: string, family: string, values: Values, path: FactsOf['path'], code: string | null]>([
    ['one that Scale does not know', 'clamp-on', CHANNELS, pathOf('m3/h', 180), 'FREQUENCY_NOT_ON_PATH'],
    ['the same on both', 'clamp-on', CHANNELS, pathOf('m3/h', 180, FREQUENCY_STAGE(180, 1000)), null],
    ['the same factor, told at half the flow', 'clamp-on', CHANNELS, pathOf('m3/h', 180, FREQUENCY_STAGE(90, 500)), null],
    ['180 m³/h are 3000 L/min', 'clamp-on', CHANNELS, pathOf('L/min', 3000, FREQUENCY_STAGE(3000, 1000)), null],
    ['a pulse of 10 L at 180 m³/h is 5 Hz', 'clamp-on', { flow_m3h: 180, ch1: 'pulse', ch1_pulse_m3: 0.01 }, pathOf('m3/h', 180, FREQUENCY_STAGE(180, 5)), null],
    ['a pulse of 10 L scaled as 1 L', 'clamp-on', { flow_m3h: 180, ch1: 'pulse', ch1_pulse_m3: 0.01 }, pathOf('m3/h', 180, FREQUENCY_STAGE(180, 50)), 'FREQUENCY_DIFFERS'],
    ['a channel that carries the sound speed counts nothing', 'clamp-on', { ...CHANNELS, ch2_source: 'speed' }, pathOf('m3/h', 180), null],
    ['a frequency that nobody typed', 'clamp-on', { flow_m3h: 180, ch1: 'frequency' }, pathOf('m3/h', 180), null],
    ['1440 pulses a kg at 20 000 kg/h are 8000 Hz', 'coriolis', { flow_kgh: 20_000, pulseBy: 'pulses', pulses_kg: 1440 }, pathOf('kg/h', 20_000, FREQUENCY_STAGE(20_000, 8000)), null],
    ['the same told as 1 g a pulse', 'coriolis', { flow_kgh: 20_000, pulseBy: 'units', kg_pulse: 0.001 }, pathOf('kg/h', 20_000, FREQUENCY_STAGE(20_000, 8000)), 'FREQUENCY_DIFFERS'],
    ['mass against a volume does not compare', 'coriolis', { flow_kgh: 20_000, pulseBy: 'pulses', pulses_kg: 1440 }, pathOf('m3/h', 20), null],
    ['a meter without one', 'thermal', { fs_kgh: 100 }, pathOf('kg/h', 100), null],
  ])('%s', (_, family, values, path, code) => {
    expect(pulseFinding(factsOf(doc(family, values, path)))?.code ?? null).toBe(code)
  }) // prettier-ignore

  test('the fix puts the stage on the path, and then nothing is left to say', () => {
    const before = doc('clamp-on', CHANNELS, pathOf('L/min', 3000))
    const fix = pulseFinding(factsOf(before))?.fix
    expect(fix?.stage).toBe('frequency')
    const after = (fix?.set ?? []).reduce((d, { path, value }) => withField(d, path, value), {
      ...before,
      path: withStage(before.path, 'frequency'),
    })
    expect(after.path.find((s) => s.kind === 'frequency')).toMatchObject({ atRate: 3000, frequency_Hz: 1000 })
    expect(pulseFinding(factsOf(after))).toBeNull()
  })
  test('Set up and Scale say the same of it', () => {
    const d = doc('clamp-on', CHANNELS, pathOf('m3/h', 180, FREQUENCY_STAGE(180, 100)))
    const facts = factsOf(d)
    const here = (codes: readonly { code: string; says: string }[] | undefined) =>
      codes?.find((f) => f.code === 'FREQUENCY_DIFFERS')?.says
    expect(here(auditLoop(d, facts))).toMatch(/wrong by a factor of 10/)
    expect(here(judgeSetUp(facts)?.findings)).toBe(here(auditLoop(d, facts)))
  })
})
