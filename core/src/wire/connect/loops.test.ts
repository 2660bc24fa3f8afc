import { describe, expect, test } from 'vitest'
import { knownParts, NOTHING_WIRED, withoutWire, type Wiring } from '../../part/wiring.ts'
import { judgeWiring } from '../proof/judge.ts'
import { connect } from './index.ts'
import { loopsIn } from './loops.ts'

type Parts = Wiring['parts']
const part = (kind: string, settings: Parts[string]['settings'] = {}) => ({ kind, settings })
const loop = (n: number): Parts => ({
  [`PT-${n}`]: part('two-wire-transmitter'),
  [`W-${n}`]: part('cable', { cores: 2 }),
  [`F-${n}`]: part('fuse'),
  [`AI-${n}`]: part('analogue-input'),
})
const switching = (n: number): Parts => ({
  [`ZS-${n}`]: part('proximity-three-wire'),
  [`W-${n}`]: part('cable', { cores: 3 }),
  [`DI-${n}`]: part('digital-input', { mode: 'sink' }),
})
const PS: Parts = { 'PS-1': part('supply', { limit_A: 10 }) }
const six: Parts = {
  ...loop(201),
  ...loop(202),
  ...loop(203),
  ...loop(204),
  ...loop(205),
  ...loop(206),
  ...PS,
}
const wired = (parts: Parts): Wiring => {
  const c = connect({ ...NOTHING_WIRED, parts })
  if (c.kind !== 'wired') throw new Error(c.says)
  return c.wiring
}

describe('several loops and a common supply', () => {
  test.each<[string, Parts, number]>([
    ['two loops', { ...loop(201), ...loop(202), ...PS }, 2],
    ['a cabinet of six', six, 6],
    ['six that run over one strip', { ...six, 'X-1': part('terminal-strip', { ways: 2 }) }, 6],
    ['two that switch', { ...switching(1), ...switching(2), ...PS }, 2],
    ['one that measures and one that switches', { ...loop(201), ...switching(305), ...PS }, 2],
  ])('%s: each is wired with the parts of its number, and proved', (_what, parts, n) => {
    expect(loopsIn({ ...NOTHING_WIRED, parts })).toHaveLength(n)
    const w = wired(parts)
    const j = judgeWiring(w)
    expect(j.statements.filter((s) => !s.held)).toEqual([])
    expect([j.verdict, j.complaints]).toEqual(['proved', []])
  })
  test('two loops exchanged at their cards are not right, though every card reads a current', () => {
    const w = wired({ ...loop(201), ...loop(202), ...PS })
    const at = (t: string) => (t === 'AI-201:in' ? 'AI-202:in' : t === 'AI-202:in' ? 'AI-201:in' : t)
    const wires = Object.entries(w.wires).map(([id, x]) => [id, { ...x, from: at(x.from), to: at(x.to) }])
    const j = judgeWiring({ ...w, wires: Object.fromEntries(wires) as Wiring['wires'] })
    expect(j.verdict).toBe('wrong')
    expect(j.statements.filter((s) => !s.held).map((s) => `${s.code} ${s.part}`)).toEqual([
      'READS AI-201',
      'READS AI-202',
    ])
  })
  test('one open wire spoils one loop and leaves the other alone', () => {
    const w = wired({ ...loop(201), ...loop(202), ...PS })
    const [id] = Object.entries(w.wires).find(([, x]) => x.to.startsWith('AI-202:in')) ?? ['']
    const failed = judgeWiring(withoutWire(w, id)).statements.filter((s) => !s.held)
    expect(failed.length).toBeGreaterThan(0)
    expect(failed.every((s) => s.part.endsWith('202'))).toBe(true)
  })
  test('without numbers that tell them apart it says what to do', () => {
    const c = connect({
      ...NOTHING_WIRED,
      parts: { A: part('two-wire-transmitter'), B: part('two-wire-transmitter'), ...PS },
    })
    expect(c).toMatchObject({
      kind: 'cannot',
      says: expect.stringContaining('give each loop’s parts its number'),
    })
    expect(knownParts({ parts: six })).toHaveLength(25)
  })
})
