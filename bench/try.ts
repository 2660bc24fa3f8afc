import { NOTHING_WIRED, type Wiring } from '../core/src/part/wiring.ts'
import { usualRelay } from '../core/src/signal/relay-plan.ts'
import { connect } from '../core/src/wire/connect/index.ts'
import { culprits } from '../core/src/wire/proof/culprit.ts'
import { judgeWiring } from '../core/src/wire/proof/judge.ts'
import { mistakesOn } from '../core/src/wire/proof/test/mistakes.ts'
import { singleChanges } from '../core/src/wire/proof/changes.ts'
const part = (kind: string, settings = {}) => ({ kind, settings })
const plan = (name: string, onAt: number, offAt: number) => ({
  ...usualRelay(name, 0, 12),
  trip: { kind: 'points' as const, onAt, offAt, same: 'falling' as const },
})
const MEANT = {
  senses: null,
  relays: { plans: [plan('Away', 4, 9), plan('Near', 9, 4)], at4: 0, at20: 12, unit: 'ft' },
}
const parts = {
  'LT-1': part('two-wire-transmitter'),
  'LC-1': part('level-controller'),
  'AI-1': part('analogue-input'),
  'W-1': part('cable', { cores: 2 }),
  'PS-1': part('supply', { limit_A: 5 }),
  'M-1': part('motor', { moves: 'up' }),
  'M-2': part('motor', { moves: 'down' }),
}
const c = connect({ ...NOTHING_WIRED, parts })
if (c.kind !== 'wired') throw new Error(c.says)
console.log(c.says)
const w: Wiring = c.wiring
console.log(
  Object.values(w.wires)
    .map((x) => `${x.from}-${x.to}`)
    .join('\n'),
)
let t = performance.now()
for (let i = 0; i < 10; i++) judgeWiring(w, MEANT)
console.log(
  'judge ms',
  (performance.now() - t) / 10,
  judgeWiring(w, MEANT).states.length,
  judgeWiring(w, MEANT).verdict,
)
if (process.argv[2]) {
  for (let i = 0; i < 60; i++) judgeWiring(w, MEANT)
  process.exit(0)
}
const all = mistakesOn(w)
console.log('mistakes', all.length, 'changes', singleChanges(w).length)
for (let i = 0; i < all.length; i += 41) {
  t = performance.now()
  const m = all[i]!
  const j = judgeWiring(m.wiring, MEANT)
  const f = j.verdict === 'proved' ? null : culprits(m.wiring, MEANT)[0]
  console.log(Math.round(performance.now() - t), j.verdict, m.title, '=>', f?.says, f ? m.isNamed(f) : '')
}
