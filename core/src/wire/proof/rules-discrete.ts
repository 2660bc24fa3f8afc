import { sayNumber } from '../../quantity/round.ts'
import { address, type KnownPart } from '../../part/wiring.ts'
import { contactEnds, outputOf, switchingOf } from '../connect/discrete.ts'
import type { Proving, Rule } from './rule.ts'
import { sensorsOf, type SolvedState } from './states.ts'
import { acrossLoad, bitOf, drivenRelays, followedRelay, loadOn } from './what-is-on.ts'

/** What counts as no current, A. */
const NONE_A = 1e-5
const BY_TRANSISTOR = ['pnp', 'npn', 'pp']

/** Whether a sensor’s output conducts when it is actuated: by its label. */
const makesBy = (p: KnownPart): boolean => p.s['fn'] !== 'nc'
const actuated = (s: SolvedState, p: KnownPart) => s.bench.actuated.includes(p.id)
/** A sensor’s output conducts in this state. */
const conducts = (s: SolvedState, p: KnownPart) => actuated(s, p) === makesBy(p)

/** What a sensor tells has arrived: in bits, coils and lamps, in the sense that is meant. */
export function discreteRules({ w, parts, meant, nets }: Proving): Rule[] {
  const sensors = sensorsOf(parts)
  const relays = drivenRelays(parts, meant)
  if (sensors.length === 0 && !parts.some((p) => p.kind.relays)) return []
  const net = nets()
  const isLanded = (at: string) => Object.values(w.wires).some((x) => x.from === at || x.to === at)
  const into = (s: SolvedState, at: string): number =>
    Object.entries(w.wires).reduce(
      (sum, [id, x]) => sum + (x.to === at ? 1 : x.from === at ? -1 : 0) * (s.e.wire_A(id) ?? 0),
      0,
    )
  const drives = (q: KnownPart, p: KnownPart) =>
    ['a1', 'a2'].some((t) => net(address(p.id, t)) === net(address(q.id, 'bk')))
  const amplifiers = parts.filter((p) => p.s['closes'] !== undefined)
  /** 1 when what the sensor looks for is there? */
  const makes = (p: KnownPart): boolean => {
    if (meant.senses !== null) return meant.senses === 'makes'
    const amp = p.kind.readBy === undefined ? undefined : amplifiers[0]
    return amp ? amp.s['closes'] === 'low' : makesBy(p)
  }
  /** The one sensor that something follows: it changes when that one alone does. */
  const followed = (all: readonly SolvedState[], on: (s: SolvedState) => unknown): KnownPart[] => {
    const rest = all.find((s) => s.bench.actuated.length === 0)
    return rest ? sensors.filter((p) => all.some((s) => actuated(s, p) && on(s) !== on(rest))) : []
  }
  const followsRightly = (
    all: readonly SolvedState[],
    on: (s: SolvedState) => boolean | null,
    expected: (p: KnownPart, s: SolvedState) => boolean,
  ): boolean => {
    const by = followed(all, on)
    if (by.length === 0) return followedRelay(relays, all, on) !== null
    const [sensor] = by
    return by.length === 1 && sensor !== undefined && all.every((s) => on(s) === expected(sensor, s))
  }
  const meantOn = (p: KnownPart, s: SolvedState) => actuated(s, p) === makes(p)

  const out: Rule[] = []
  for (const p of parts) {
    if (p.kind.guards === true)
      out.push({
        part: p.id,
        code: 'GUARDS',
        weight: 'stop',
        at: p.terminals.map((t) => address(p.id, t.id)),
        says: `the signal goes through ${p.id}, and nothing goes past it`,
        holdsAcross: (all) => {
          const lanes = p.kind.lanes?.(p.s) ?? []
          const landed = lanes.filter(([a, b]) => [a, b].some((t) => isLanded(address(p.id, t))))
          return (
            landed.length > 0 &&
            lanes.every(([a, b]) => net(address(p.id, a)) !== net(address(p.id, b))) &&
            landed.every(([a, b]) =>
              [a, b].every((t) => all.some((s) => Math.abs(into(s, address(p.id, t))) > NONE_A)),
            )
          )
        },
      })
    if (p.kind.duty === 'input') {
      const inverts = p.s['inverts'] === true
      out.push({
        part: p.id,
        code: 'SURE_BIT',
        weight: 'stop',
        at: [address(p.id, 'in'), address(p.id, 'com')],
        says: `${p.id} sees a sure 0 or a sure 1`,
        holds: (s) => bitOf(s, p) === 0 || bitOf(s, p) === 1,
        instead: (s) =>
          `${sayNumber(Number(s.e.values[`vin(${p.id})`] ?? 0), 3)} V and ${sayNumber(Number(s.e.values[`iin(${p.id})`] ?? 0) * 1000, 3)} mA`,
      })
      out.push({
        part: p.id,
        code: 'BIT_FOLLOWS',
        weight: 'stop',
        at: [address(p.id, 'in'), address(p.id, 'com')],
        says: `${p.id} follows one sensor, in the sense that is meant${inverts ? ', turned round in the program' : ''}`,
        holdsAcross: (all) =>
          followsRightly(
            all,
            (s) => bitOf(s, p) === 1,
            (sensor, s) => meantOn(sensor, s) !== inverts,
          ),
        instead: (s) => `bit ${String(bitOf(s, p) ?? 'none')}`,
      })
    }
    const load = p.kind.switchedLoad?.(p.s)
    if (load) {
      const coil = p.kind.duty === 'switching'
      const on = (s: SolvedState) => loadOn(s, p)
      out.push({
        part: p.id,
        code: 'DRIVEN',
        weight: 'stop',
        at: [address(p.id, 'a1'), address(p.id, 'a2')],
        says: coil
          ? `${p.id} pulls in exactly when its sensor conducts, at its own voltage`
          : `${p.id} is on exactly when it is meant to be, at its own voltage`,
        holdsAcross: (all) =>
          all.every((s) => on(s) !== null) &&
          followsRightly(all, on, coil ? (sensor, s) => conducts(s, sensor) : meantOn),
        instead: (s) => `${sayNumber(acrossLoad(s, p) ?? 0, 3)} V on ${load.volts} V`,
      })
      if (coil)
        out.push({
          part: p.id,
          code: 'SWITCHES',
          weight: 'stop',
          at: [address(p.id, 'com')],
          says: `${p.id} switches something`,
          holdsAcross: () => isLanded(address(p.id, 'com')),
        })
      const driver = sensors.find((q) => BY_TRANSISTOR.includes(switchingOf(q)) && drives(q, p))
      if (load.coil && driver && p.s['suppressed'] !== true)
        out.push({
          part: p.id,
          code: 'SUPPRESSED',
          weight: 'look',
          at: [address(p.id, 'a1'), address(p.id, 'a2')],
          says: `the kick of ${p.id} is caught by a diode across its coil, cathode to plus, before it reaches ${driver.id}`,
          holds: (s) => {
            const v = (t: string) => s.e.volts(address(p.id, t)) ?? 0
            if (Math.abs(v('a1') - v('a2')) < 1) return null
            const [plus, minus] = v('a1') > v('a2') ? ['a1', 'a2'] : ['a2', 'a1']
            return parts.some(
              (d) =>
                d.kind.looseUse === 'suppresses' &&
                net(address(d.id, 'k')) === net(address(p.id, plus)) &&
                net(address(d.id, 'a')) === net(address(p.id, minus)),
            )
          },
        })
    }
  }
  for (const p of sensors) {
    const label = outputOf(p)
    const has = (t: string) => p.terminals.some((x) => x.id === t && ['bn', 'bu'].includes(x.role))
    if (has('plus') && has('minus') && p.s['either'] !== true && p.s['build'] !== 'reed')
      out.push({
        part: p.id,
        code: 'POLARITY',
        weight: 'stop',
        at: [address(p.id, 'plus'), address(p.id, 'minus')],
        says: `${p.id} has its plus at BN`,
        holds: (s) =>
          (s.e.volts(address(p.id, 'plus')) ?? 0) >= (s.e.volts(address(p.id, 'minus')) ?? 0) - 0.1,
      })
    const carried = (s: SolvedState): number => {
      const at = p.terminals.some((t) => t.id === 'bk') ? 'bk' : contactEnds(p)[0]
      return Math.abs(Number(s.e.values[`I(${p.id}.${at})`] ?? 0))
    }
    out.push({
      part: p.id,
      code: 'CARRIES',
      weight: 'stop',
      says: `the output of ${p.id} carries no more than its ${sayNumber(label.most_A * 1000)} mA`,
      holds: (s) => carried(s) <= label.most_A,
      instead: (s) => `${sayNumber(carried(s) * 1000, 3)} mA`,
    })
    out.push({
      part: p.id,
      code: 'HEARD',
      weight: 'stop',
      at: p.terminals.map((t) => address(p.id, t.id)),
      says: `something takes what ${p.id} tells`,
      holdsAcross: (all) => {
        const rest = all.find((s) => s.bench.actuated.length === 0)
        const there = all.find((s) => actuated(s, p))
        return (
          rest !== undefined &&
          there !== undefined &&
          parts.some(
            (q) =>
              (q.kind.duty === 'input' && bitOf(rest, q) !== bitOf(there, q)) ||
              (q.kind.duty === 'load' &&
                Math.abs((acrossLoad(rest, q) ?? 0) - (acrossLoad(there, q) ?? 0)) > 1),
          )
        )
      },
    })
  }
  return out
}
