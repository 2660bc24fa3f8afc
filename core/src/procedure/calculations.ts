import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { abortSteps, followWork, WORK_STEPS, type WorkState } from './order-of-work.ts'
import { judgeSequence, manifold, onlyOpen, type ValveMove } from '../manifold/manifold.ts'

const STATES = ['IDLE', ...WORK_STEPS.map(([, s]) => s)] as [WorkState, ...WorkState[]]
const MOVES = ['openH', 'closeH', 'openL', 'closeL', 'openE', 'closeE', 'openV', 'closeV'] as const
type Move = (typeof MOVES)[number]
const asMove = (m: Move): ValveMove => ({ valve: m.slice(-1), to: m.startsWith('open') ? 'open' : 'close' })

export const procedureCalculations = [
  calculation({
    name: 'procedure.order',
    title: 'Order of work at a loop',
    source: 'Only the next step is allowed; as-found may end without an adjustment, as-left may adjust again',
    input: z.strictObject({
      events: z.array(z.string().max(40)).max(200),
      from: z.enum(STATES).default('IDLE'),
    }),
    output: z.object({
      state: z.string(),
      refusedAt: z.number().nullable(),
      event: z.string().nullable(),
      expectedNext: z.array(z.string()),
    }),
    run: ({ events, from }) => {
      const r = followWork(events, from)
      return { ...r, expectedNext: [...r.expectedNext] }
    },
    example: { events: ['notify', 'manual', 'bypassTrips'] },
  }),
  calculation({
    name: 'procedure.abort',
    title: 'The safe way back from any state',
    source: 'Every way ends with the operators told; a held current is released first',
    input: z.strictObject({ state: z.enum(STATES), fixedCurrent: z.boolean().default(false) }),
    output: z.object({ steps: z.array(z.string()) }),
    run: ({ state, fixedCurrent }) => ({ steps: abortSteps(state, fixedCurrent) }),
    example: { state: 'ADJUSTED' as const, fixedCurrent: true },
  }),
  calculation({
    name: 'procedure.manifold',
    title: 'Three-valve manifold with one vent',
    source: 'Through flow, vent to process, one-sided vent and pressure, after every move',
    input: z.strictObject({ moves: z.array(z.enum(MOVES)).max(100) }),
    output: z.object({
      rule: z.string().nullable(),
      at: z.number().nullable(),
      zeroReady: z.boolean(),
      inService: z.boolean(),
    }),
    run: ({ moves }) => {
      const { rule, at, end } = judgeSequence(manifold('one-vent', 'in service'), moves.map(asMove))
      const isolated = end.open.has('E') && !end.open.has('H') && !end.open.has('L')
      return { rule, at, zeroReady: isolated, inService: onlyOpen(end, 'H', 'L') }
    },
    example: { moves: ['closeL', 'openE', 'closeH', 'openV'] as Move[] },
  }),
]
