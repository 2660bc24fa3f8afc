import { z } from 'zod'
import { MOST_RELAYS, RelayPlanSchema } from '../../signal/relay-plan.ts'
import { calculation } from '../../calculation.ts'
import { address, knownParts, NOTHING_WIRED, SCHOOLS, Wiring } from '../../part/wiring.ts'
import { refused } from '../../refused.ts'
import { connect } from '../connect/index.ts'
import { culprits } from './culprit.ts'
import { judgeWiring } from './judge.ts'
import { tellJudgement } from './told.ts'
import { explain } from '../explain.ts'
import { energise, AT_REST } from '../../part/energise.ts'

const Chosen = z.strictObject({
  school: z.enum(SCHOOLS).default('iec'),
  parts: z.record(
    z.string().max(24),
    z.strictObject({
      kind: z.string().max(40),
      settings: z
        .record(z.string().max(40), z.union([z.number(), z.string().max(40), z.boolean()]))
        .default({}),
    }),
  ),
})
const FindingTold = z.object({
  code: z.string(),
  severity: z.enum(['stop', 'warn', 'note', 'good']),
  says: z.string(),
  culprit: z
    .object({
      wire: z.string().optional(),
      part: z.string().optional(),
      terminals: z.array(z.string()).optional(),
    })
    .optional(),
})
const SOURCE = 'Every part’s own statement, held against the solved circuit in every state'
const EXAMPLE = {
  school: 'iec' as const,
  parts: {
    'PT-1': { kind: 'two-wire-transmitter', settings: {} },
    'PS-1': { kind: 'supply', settings: {} },
    'AI-1': { kind: 'analogue-input', settings: {} },
  },
}
const wire = (from: string, to: string) => ({ from, to, colour: null, ferrule: '' })

/** The wiring as it must be, or where it is not. */
function soundOr(w: unknown, path: string) {
  const parsed = Wiring.safeParse(w)
  if (parsed.success) return parsed.data
  const [issue] = parsed.error.issues
  return refused(
    issue?.message ?? 'This is no wiring.',
    [path, ...(issue?.path ?? [])].filter((p) => p !== '').join('.'),
  )
}

export const proofCalculations = [
  calculation({
    name: 'wire.connect',
    title: 'The correct wiring of chosen parts',
    source: 'Terminal by terminal from the labels; each wiring is solved',
    input: Chosen,
    output: z.object({
      wiring: Wiring.nullable(),
      says: z.string(),
      remedies: z.array(z.object({ id: z.string(), title: z.string(), says: z.string(), wiring: Wiring })),
    }),
    run: (chosen) => {
      const sound = soundOr({ ...NOTHING_WIRED, ...chosen }, '')
      if ('kind' in sound) return sound
      const c = connect(sound)
      return c.kind === 'wired'
        ? { wiring: c.wiring, says: c.short === null ? c.says : `${c.says} ${c.short}`, remedies: [] }
        : { wiring: null, says: c.says, remedies: [...c.remedies] }
    },
    example: EXAMPLE,
  }),
  calculation({
    name: 'wire.judge',
    title: 'Whether a wiring does its work, proved',
    source: SOURCE,
    input: z.strictObject({
      wiring: Wiring,
      senses: z.enum(['makes', 'breaks']).optional().describe('whether the signal is 1 while it senses'),
      relays: z
        .strictObject({
          plans: z.array(RelayPlanSchema).max(MOST_RELAYS),
          at4: z.number(),
          at20: z.number(),
          unit: z.string().max(40),
        })
        .optional()
        .describe('relays of a controller, and what 4 and 20 mA stand for'),
    }),
    output: z.object({
      verdict: z.enum(['proved', 'not proved', 'wrong']),
      states: z.array(
        z.object({
          title: z.string(),
          volts: z
            .record(z.string(), z.number())
            .describe('from each terminal to 0 V; none of what is isolated from it'),
          values: z.record(z.string(), z.union([z.number(), z.string()])),
        }),
      ),
      statements: z.array(z.object({ part: z.string(), says: z.string(), held: z.boolean() })),
      findings: z.array(FindingTold),
    }),
    run: ({ wiring: w, senses = null, relays = null }) => {
      const meant = { senses, relays }
      const j = judgeWiring(w, meant)
      const found = j.verdict === 'wrong' ? (culprits(w, meant)[0] ?? null) : null
      const [first] = j.states
      const bench = first?.bench ?? AT_REST
      const e = first?.e ?? energise(w, bench)
      const terminals = knownParts(w).flatMap((p) => p.terminals.map((t) => address(p.id, t.id)))
      return {
        verdict: j.verdict,
        states: j.states.map((s) => ({
          title: s.title,
          volts: Object.fromEntries(
            terminals.flatMap((t): [string, number][] => {
              const v = s.e.toGround(t)
              return v === null ? [] : [[t, v]]
            }),
          ),
          values: Object.fromEntries(
            Object.entries(s.e.values).flatMap(([name, v]): [string, number | string][] =>
              v === null ? [] : [[name, v]],
            ),
          ),
        })),
        statements: j.statements.map(({ part, says, held }) => ({ part, says, held })),
        findings: tellJudgement(w, bench, e, j, explain(w, bench, e), found).map((f) => ({
          code: f.code,
          severity: f.severity,
          says: f.says,
          ...(f.code === 'CULPRIT' && found
            ? {
                culprit: {
                  ...(found.wire === undefined ? {} : { wire: found.wire }),
                  ...(found.part === undefined ? {} : { part: found.part }),
                  terminals: [...found.terminals],
                },
              }
            : f.where[0] === undefined
              ? {}
              : { culprit: f.where[0] in w.wires ? { wire: f.where[0] } : { part: f.where[0] } }),
        })),
      }
    },
    example: {
      wiring: {
        ...EXAMPLE,
        wires: {
          '1': wire('PT-1:plus', 'PS-1:plus'),
          '2': wire('PT-1:minus', 'AI-1:in'),
          '3': wire('AI-1:com', 'PS-1:minus'),
        },
      },
    },
  }),
]
