import { energise, type BenchState, type Energised } from '../part/energise.ts'
import { address, knownParts, sayTerminal, type Wiring } from '../part/wiring.ts'

/** One place to put the meter, and what it should read in each state of the loop. */
export interface TestPoint {
  readonly id: string
  readonly place: string
  readonly how: 'V across' | 'mA in series'
  readonly red: string
  readonly black: string
  readonly readings: readonly string[]
}
export interface TestPointTable {
  /** What the loop is doing in each column. */
  readonly states: readonly string[]
  readonly points: readonly TestPoint[]
}

const fixed = (v: number, decimals: number) => (Math.abs(v) < 0.5 * 10 ** -decimals ? 0 : v).toFixed(decimals)

/** The states a loop is looked at in: the five points of a loop check, or the target away and there. */
export function testStates(w: Wiring): { title: string; state: BenchState }[] {
  const parts = knownParts(w)
  const sensor = parts.find((p) => p.kind.actuate !== undefined)
  const words = sensor?.kind.actuate?.(sensor.s)
  const at = (current_mA: number, actuated: string[] = []): BenchState => ({
    power: true,
    current_mA,
    actuated,
    faults: [],
  })
  if (sensor && words)
    return [
      { title: words.off, state: at(0) },
      { title: words.on, state: at(0, [sensor.id]) },
    ]
  return [4, 8, 12, 16, 20].map((mA) => ({ title: `${mA} mA`, state: at(mA) }))
}

/** What each test point should read in a healthy circuit: printed before anything is powered. */
export function testPoints(w: Wiring): TestPointTable {
  const parts = knownParts(w)
  const states = testStates(w)
  const solved: Energised[] = []
  for (const { state } of states) solved.push(energise(w, state, solved.at(-1)?.memory))
  const points: TestPoint[] = []
  for (const p of parts)
    for (const [plus, minus, says] of p.kind.testPoints?.(p.s) ?? []) {
      const [red, black] = [address(p.id, plus), address(p.id, minus)]
      points.push({
        id: `${red}|${black}`,
        place: `${p.id}, ${says}`,
        how: 'V across',
        red: sayTerminal(w, red),
        black: sayTerminal(w, black),
        readings: solved.map((e) => {
          const [a, b] = [e.volts(red), e.volts(black)]
          return a === null || b === null ? 'none' : `${fixed(a - b, 2)} V`
        }),
      })
    }
  const field = parts.find((p) => p.kind.duty === 'transmitter' || p.kind.duty === 'sensor')
  for (const [id, wire] of Object.entries(w.wires)) {
    if (!field || ![wire.from, wire.to].some((at) => at.startsWith(`${field.id}:`))) continue
    const currents = solved.map((e) => e.wire_A(id))
    if (currents.every((i) => i === null || Math.abs(i) < 1e-6)) continue
    // The red lead goes to the end the current comes from, so that it reads positive.
    const sum = currents.reduce<number>((s, i) => s + (i ?? 0), 0)
    const [red, black] = sum >= 0 ? [wire.from, wire.to] : [wire.to, wire.from]
    points.push({
      id: `wire ${id}`,
      place: `wire ${id}, opened at ${sayTerminal(w, wire.from.startsWith(`${field.id}:`) ? wire.from : wire.to)}`,
      how: 'mA in series',
      red: sayTerminal(w, red),
      black: sayTerminal(w, black),
      readings: currents.map((i) => (i === null ? 'none' : `${fixed(Math.abs(i) * 1000, 3)} mA`)),
    })
  }
  return { states: states.map((s) => s.title), points }
}
