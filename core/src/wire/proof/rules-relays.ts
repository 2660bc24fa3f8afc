import { relayState, valueOf } from '../../signal/relay-plan.ts'
import { sayNumber } from '../../quantity/round.ts'
import { address } from '../../part/wiring.ts'
import type { Proving, Rule } from './rule.ts'
import { bitOf, drivenRelays, followedRelay, loadOn } from './what-is-on.ts'

/** A controller's relays: as planned, wired where they are planned, and each moving the value back. */
export function relayRules({ w, parts, meant }: Proving): Rule[] {
  const relays = drivenRelays(parts, meant)
  const isLanded = (at: string) => Object.values(w.wires).some((x) => x.from === at || x.to === at)
  const out: Rule[] = []
  for (const p of parts)
    (p.kind.relays?.(p.s) ?? []).forEach((r, i) => {
      const name = `K${i + 1} of ${p.id}`
      const com = address(p.id, r.com)
      const planned = relays.find((x) => x.com === com)
      if (!planned) {
        if (isLanded(com))
          out.push({
            part: p.id,
            code: 'RELAY_PLANNED',
            weight: 'look',
            at: [com],
            says: `${name} has a plan: where it switches on, and where off (view “Relays”)`,
            holdsAcross: () => false,
          })
        return
      }
      const { plan } = planned
      out.push({
        part: p.id,
        code: 'RELAY_AS_PLANNED',
        weight: 'stop',
        at: [com],
        says: `${plan.name}, ${name}, is energised exactly as planned`,
        holds: (s) => {
          if (!meant.relays || s.asked_mA === null) return null
          const x = valueOf(meant.relays, s.asked_mA / 1000)
          return planned.energised(s) === relayState(plan, x, plan.startUp)
        },
        instead: (s) => (planned.energised(s) ? 'energised' : 'not energised'),
      })
      out.push({
        part: p.id,
        code: 'RELAY_HEARD',
        weight: isLanded(com) ? 'stop' : 'look',
        at: [com, address(p.id, plan.contact === 'no' ? r.no : r.nc)],
        says: `something hangs on the ${plan.contact.toUpperCase()} contact of ${plan.name}, ${name}`,
        holdsAcross: (all) =>
          parts.some(
            (q) =>
              (q.kind.duty === 'input' || q.kind.switchedLoad !== undefined) &&
              followedRelay([planned], all, (s) =>
                q.kind.duty === 'input' ? (bitOf(s, q) === 1) !== (q.s['inverts'] === true) : loadOn(s, q),
              ) !== null,
          ),
      })
    })
  if (relays.length === 0) return out
  for (const p of parts) {
    const moves = p.kind.moves?.(p.s)
    if (!moves || !meant.relays) continue
    const { at4, at20 } = meant.relays
    const rises = at20 > at4 === moves.up
    out.push({
      part: p.id,
      code: 'MOVES_BACK',
      weight: 'stop',
      at: [address(p.id, 'a1'), address(p.id, 'a2')],
      says: `${p.id} makes the value ${moves.up ? 'rise' : 'fall'}, and so runs only while it is too ${moves.up ? 'low' : 'high'}`,
      holdsAcross: (all) => {
        // In measuring states alone; what a lost signal does is the plan's.
        const measured = all.flatMap((s) =>
          s.asked_mA !== null && meant.relays && valueOf(meant.relays, s.asked_mA / 1000) !== null
            ? [{ mA: s.asked_mA, on: loadOn(s, p) }]
            : [],
        )
        const runs = measured.filter((m) => m.on === true).map((m) => m.mA)
        const rests = measured.filter((m) => m.on === false).map((m) => m.mA)
        if (runs.length === 0 || rests.length === 0) return false
        return rises
          ? Math.max(...runs) < Math.max(...rests) && Math.min(...runs) < Math.min(...rests)
          : Math.min(...runs) > Math.min(...rests) && Math.max(...runs) > Math.max(...rests)
      },
      instead: (s) =>
        `${sayNumber(s.asked_mA ?? 0, 4)} mA: ${loadOn(s, p) === true ? 'it runs' : 'it rests'}`,
    })
  }
  return out
}
