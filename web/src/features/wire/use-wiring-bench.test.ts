import { NOTHING_WIRED, type Wiring } from '@calm/core/part/wiring'
import { connect } from '@calm/core/wire/connect/index'
import { effectScope, nextTick, ref, shallowRef } from 'vue'
import { beforeEach, describe, expect, test } from 'vitest'
import { partStatus } from './part-status.ts'
import { useWiringBench, type WiringBench } from './use-wiring-bench.ts'

const parts: Wiring['parts'] = {
  'PT-1': { kind: 'two-wire-transmitter', settings: {} },
  'PS-1': { kind: 'supply', settings: {} },
  'AI-1': { kind: 'analogue-input', settings: {} },
}
const wired = (): Wiring => {
  const c = connect({ ...NOTHING_WIRED, parts })
  if (c.kind !== 'wired') throw new Error(c.says)
  return c.wiring
}

describe('the Wire bench', () => {
  const stored = shallowRef<Wiring>(NOTHING_WIRED)
  const current = ref<number | null>(null)
  let bench: WiringBench
  beforeEach(() => {
    stored.value = { ...NOTHING_WIRED, parts }
    current.value = null
    const made = effectScope().run(() => useWiringBench(stored, current, (w) => (stored.value = w)))
    if (!made) throw new Error('no bench')
    bench = made
  })
  const percent = () => bench.solved.value.values['pct(AI-1)']

  test('two terminals picked one after the other are a wire; the same one twice lets go', () => {
    bench.pick('PS-1:plus')
    bench.pick('PS-1:plus')
    expect(bench.picked.value).toBeNull()
    expect(Object.keys(bench.wiring.value.wires)).toEqual([])
    bench.pick('PS-1:plus')
    bench.pick('PT-1:plus')
    expect(Object.values(bench.wiring.value.wires)).toEqual([
      { from: 'PS-1:plus', to: 'PT-1:plus', colour: 'RD', ferrule: '' },
    ])
    expect(bench.picked.value).toBeNull()
  })

  test('undo goes back step by step, redo forward, a new change ends the redo', () => {
    bench.connectTerminals('PS-1:plus', 'PT-1:plus')
    bench.connectTerminals('PT-1:minus', 'AI-1:in')
    bench.undo()
    expect(Object.keys(bench.wiring.value.wires)).toHaveLength(1)
    bench.redo()
    expect(Object.keys(bench.wiring.value.wires)).toHaveLength(2)
    bench.undo()
    bench.undo()
    expect(bench.canUndo.value).toBe(false)
    bench.undo()
    bench.addParts('lamp', '7', 1)
    expect(bench.canRedo.value).toBe(false)
    expect(bench.wiring.value.parts['H-7']?.kind).toBe('lamp')
  })

  test('the circuit follows the current that the signal path asks for', async () => {
    bench.change(wired())
    await nextTick()
    expect(Number(percent())).toBeCloseTo(50, 3)
    current.value = 20
    await nextTick()
    expect(Number(percent())).toBeCloseTo(100, 3)
    bench.power.value = false
    await nextTick()
    expect(Number(percent())).toBeCloseTo(-25, 3)
  })

  test('a fault goes away with its wire, and by mending', async () => {
    bench.change(wired())
    const [wire = ''] = Object.keys(bench.wiring.value.wires)
    const fault = { kind: 'open', wire } as const
    bench.putFault(fault)
    await nextTick()
    expect(Number(percent())).toBeCloseTo(-25, 3)
    bench.mend(fault)
    await nextTick()
    expect(Number(percent())).toBeCloseTo(50, 3)
    bench.putFault(fault)
    bench.select({ kind: 'wire', id: wire })
    bench.removeSelected()
    await nextTick()
    expect(bench.state.value.faults).toEqual([])
  })

  test('a label that cannot be is kept as typed; the last possible circuit stays solved', async () => {
    bench.change(wired())
    await nextTick()
    bench.setSetting('PS-1', 'voltage_V', -4)
    await nextTick()
    expect(bench.wiring.value.parts['PS-1']?.settings['voltage_V']).toBe(-4)
    expect(Number(percent())).toBeCloseTo(50, 3)
  })

  test('what is right now and wrong at another current is told', async () => {
    const w = wired()
    bench.change({
      ...w,
      parts: {
        ...w.parts,
        'AI-1': { kind: 'analogue-input', settings: { shunt_ohm: 700, scaled_ohm: 700 } },
      },
    })
    current.value = 8
    await nextTick()
    expect(Number(percent())).toBeCloseTo(25, 3)
    // What the part does not get stands before what it does not do.
    expect(bench.findings.value[0]).toMatchObject({ code: 'LIFTED', severity: 'stop' })
    const told = bench.findings.value.find((f) => f.code === 'NOT_REGULATING')
    expect(told?.says).toMatch(/^At 20 mA: Only/)
    expect(bench.findings.value.map((f) => f.code)).not.toContain('WIRING_RIGHT')
  })

  test('each part shows what it does now', async () => {
    bench.change(wired())
    await nextTick()
    const status = () =>
      bench.parts.value.map((p) => [p.id, partStatus(p, bench.sound.value, bench.solved.value, true)])
    expect(status()).toEqual([
      ['PT-1', '12.000 mA'],
      ['PS-1', ''],
      ['AI-1', '50.00 %'],
    ])
  })
})
