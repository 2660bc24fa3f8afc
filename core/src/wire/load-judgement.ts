import { AT_REST, energise } from '../part/energise.ts'
import { address, knownParts, type Wiring } from '../part/wiring.ts'
import type { Evidence, Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { inputModel, outputLimit_A } from './connect/discrete.ts'

const mA = (label: string, amps: number) => ({ label, value: amps * 1000, unit: 'mA' })

/** Output against load, and what the input sees of a sensor that is off and on: from the wiring as it is. */
export function judgeLoad(w: Wiring): Finding[] {
  const parts = knownParts(w)
  const sensor = parts.find((p) => p.kind.duty === 'sensor')
  if (!sensor || Object.keys(w.wires).length === 0) return []
  const input = parts.find((p) => p.kind.duty === 'input')
  const out: Finding[] = []
  const say = (
    code: string,
    severity: Finding['severity'],
    says: string,
    evidence: readonly Evidence[],
    rule: string,
  ) => out.push({ code, severity, where: [sensor.id], says, evidence, rule })
  const off = energise(w, AT_REST)
  const on = energise(w, { ...AT_REST, actuated: [sensor.id] }, off.memory)
  const output = sensor.terminals.find((t) => t.role === 'bk')?.id ?? sensor.terminals[0]?.id ?? ''
  const wires = Object.entries(w.wires).filter(([, x]) => [x.from, x.to].includes(address(sensor.id, output)))
  const load = Math.max(
    ...[off, on].map((e) => wires.reduce((sum, [id]) => sum + Math.abs(e.wire_A(id) ?? 0), 0)),
  )
  const limit = outputLimit_A(sensor)
  const loads = [mA('it carries', load), mA('it may carry', limit)]
  if (load > limit)
    say(
      'LOAD_TOO_HEAVY',
      'stop',
      `The output of ${sensor.id} carries ${sayNumber(load * 1000, 3)} mA and may carry ${sayNumber(limit * 1000, 3)} mA: put a relay between, coil below half of that.`,
      loads,
      'load limits of an electronic output',
    )
  else
    say(
      'LOAD_FITS',
      'good',
      `The output of ${sensor.id} carries ${sayNumber(load * 1000, 3)} mA of ${sayNumber(limit * 1000, 3)} mA.`,
      loads,
      'load limits of an electronic output',
    )
  if (!input) return out
  const model = inputModel(input)
  const seen = [off, on].map((e) => ({
    v: Number(e.values[`vin(${input.id})`] ?? 0),
    i: Number(e.values[`iin(${input.id})`] ?? 0),
    bit: e.values[`bit(${input.id})`],
  }))
  const evidence = seen.flatMap((s, k) => [
    { label: k === 0 ? 'input, no target' : 'input, target', value: s.v, unit: 'V' },
    mA(k === 0 ? 'into it, no target' : 'into it, target', s.i),
  ])
  const rule = `IEC 61131-2 type ${input.kind.input?.(input.s).type ?? ''}: 1 from ${model.on.v} V and ${model.on.i * 1000} mA, 0 up to ${model.off.v} V or ${model.off.i * 1000} mA`
  const [absent, present] = seen
  if (!absent || !present) return out
  if (absent.bit === 'undefined' || present.bit === 'undefined')
    say(
      'INPUT_BETWEEN',
      'stop',
      absent.bit === 'undefined'
        ? `Without target ${input.id} sees ${sayNumber(absent.i * 1000, 3)} mA at ${sayNumber(absent.v, 3)} V: neither a 0 nor a 1. Two cards of one type may differ.`
        : `With target ${input.id} sees ${sayNumber(present.v, 3)} V and ${sayNumber(present.i * 1000, 3)} mA: too little for a sure 1.`,
      evidence,
      rule,
    )
  else if (absent.bit === present.bit)
    say(
      'BIT_STUCK',
      'stop',
      `${input.id} reads ${String(absent.bit)} with and without target: the wiring does not carry the signal.`,
      evidence,
      rule,
    )
  else
    say(
      'BIT_FOLLOWS',
      'good',
      `${input.id} reads ${String(absent.bit)} without and ${String(present.bit)} with target, each within the standard’s limits.`,
      evidence,
      rule,
    )
  return out
}
