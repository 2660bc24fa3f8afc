import { describe, expect, test } from 'vitest'
import { NOTHING_WIRED, type Wiring } from '../part/wiring.ts'
import { connect } from './connect/index.ts'
import { judgeLoad } from './load-judgement.ts'
import { judgeSensing, TYPICAL_PLACE, type SensingPlace } from '../family/switch/sensing-judgement.ts'

const codes = (p: Partial<SensingPlace>) =>
  judgeSensing({ ...TYPICAL_PLACE, ...p }).findings.map((f) => f.code)

describe('sensing', () => {
  const rows: readonly [why: string, place: Partial<SensingPlace>, finds: string[]][] = [
    ['mild steel at 5 mm of 8', {}, ['SEES', 'FAST_ENOUGH']],
    ['the same in aluminium is out of reach', { metal: 'aluminium' }, ['OUT_OF_REACH', 'FAST_ENOUGH']],
    ['stainless at 5 mm is not assured', { metal: 'stainless', gap_mm: 5 }, ['NOT_ASSURED', 'FAST_ENOUGH']],
    ['a target that does not go far enough', { release_mm: 9 }, ['SEES', 'MAY_STICK', 'FAST_ENOUGH']],
    ['the card is the limit', { speed_mPerS: 2 }, ['SEES', 'CARD_TOO_SLOW']],
    ['a slow sensor', { sensorFrequency_Hz: 5 }, ['SEES', 'SENSOR_TOO_SLOW']],
    ['a small target', { targetLength_mm: 12 }, ['SEES', 'FAST_ENOUGH', 'SMALL_TARGET']],
  ]
  test.each(rows)('%s', (_why, place, finds) => expect(codes(place)).toEqual(finds))
  test('the assured distance is the reference’s', () => {
    // 0.81 · 8 mm · 0.7 · 0.92
    const j = judgeSensing({ ...TYPICAL_PLACE, metal: 'stainless', sizeFactor: 0.92 })
    expect(j.assured_mm).toBeCloseTo(0.81 * 8 * 0.7 * 0.92, 12)
  })
})

describe('output, load and input as wired', () => {
  const wired = (parts: Wiring['parts']): Wiring => {
    const c = connect({ ...NOTHING_WIRED, parts })
    return c.kind === 'wired' ? c.wiring : (c.remedies[0]?.wiring ?? NOTHING_WIRED)
  }
  const pnp = { kind: 'proximity-three-wire', settings: {} }
  const supply = { kind: 'supply', settings: {} }
  const found = (w: Wiring) => judgeLoad(w).map((f) => f.code)
  test('a PNP sensor on a sinking input fits', () => {
    const w = wired({ 'ZS-1': pnp, 'PS-1': supply, 'DI-1': { kind: 'digital-input', settings: {} } })
    expect(found(w)).toEqual(['LOAD_FITS', 'BIT_FOLLOWS'])
    expect(judgeLoad(w)[1]?.says).toBe(
      'DI-1 reads 0 without and 1 with target, each within the standard’s limits.',
    )
  })
  test('a heavy lamp is too much for the output', () => {
    const w = wired({ 'ZS-1': pnp, 'PS-1': supply, 'H-1': { kind: 'lamp', settings: { lamp_W: 3 } } })
    expect(found(w)).toEqual(['LOAD_FITS'])
    const heavy = { ...w, parts: { ...w.parts, 'H-1': { kind: 'lamp', settings: { lamp_W: 8 } } } }
    expect(found(heavy)).toEqual(['LOAD_TOO_HEAVY'])
  })
  test('a leaking 2-wire sensor leaves a type 1 input between 0 and 1', () => {
    const w = wired({
      'ZS-1': { kind: 'proximity-two-wire', settings: {} },
      'PS-1': supply,
      'DI-1': { kind: 'digital-input', settings: { type: '3' } },
    })
    expect(found(w)).toEqual(['LOAD_FITS', 'BIT_FOLLOWS'])
    const parts = {
      ...w.parts,
      'ZS-1': { kind: 'proximity-two-wire', settings: { leak_mA: 1.3 } },
      'DI-1': { kind: 'digital-input', settings: { type: '1' } },
    }
    expect(found({ ...w, parts })).toContain('INPUT_BETWEEN')
  })
  test('nothing wired, nothing judged', () => expect(judgeLoad(NOTHING_WIRED)).toEqual([]))
})
