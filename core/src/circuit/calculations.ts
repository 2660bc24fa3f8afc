import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { refused } from '../refused.ts'
import type { Memory } from './element.ts'
import { changed, elementProblems, type NetElement } from './netlist.ts'
import { solveCircuit, type Solution } from './solve.ts'

const Value = z.union([z.number(), z.boolean(), z.string().max(80)])
const Name = z.string().min(1).max(80)

const Element = z.strictObject({
  id: Name,
  type: Name,
  nodes: z.record(Name, Name).describe('node of each terminal; “0” is the 0 V reference'),
  params: z.record(Name, Value).default({}),
})

const Finding = z.object({ code: z.string(), element: z.string(), says: z.string() })

export const circuitCalculations = [
  calculation({
    name: 'circuit.solve',
    title: 'Solve a circuit',
    source: 'Modified nodal analysis with Newton’s method; element models typical, check the data sheets',
    input: z.strictObject({
      elements: z.array(Element).min(1).max(200),
      then: z
        .array(z.strictObject({ set: z.array(z.tuple([Name, Name, Value])).max(200) }))
        .max(100)
        .default([])
        .describe('changes, each solved with the memory of the one before'),
    }),
    output: z.object({
      solutions: z.array(
        z.object({
          values: z.record(z.string(), z.union([z.number(), z.string(), z.null()])),
          findings: z.array(Finding),
          floating: z
            .array(z.string())
            .describe('nodes whose voltage to 0 V means nothing: only differences do'),
        }),
      ),
    }),
    run: ({ elements, then }) => {
      let net: readonly NetElement[] = elements
      const ids = new Set<string>()
      for (const [i, e] of elements.entries()) {
        if (ids.has(e.id))
          return refused(`${e.id} stands twice. Give each element a name of its own.`, `elements.${i}.id`)
        ids.add(e.id)
        const [problem] = elementProblems(e, `elements.${i}`)
        if (problem) return refused(problem.says, problem.path)
      }
      let memory: ReadonlyMap<string, Memory> = new Map()
      const solutions: Solution[] = []
      for (const [i, { set }] of [{ set: [] as (typeof then)[number]['set'] }, ...then].entries()) {
        const next = changed(net, set)
        const [problem] = next.problems
        if (problem) return refused(problem.says, `then.${i - 1}.${problem.path}`)
        net = next.elements
        const solved = solveCircuit(net, memory)
        memory = solved.memory
        solutions.push(solved.solution)
      }
      return {
        solutions: solutions.map((s) => ({
          values: { ...s.values },
          findings: s.findings.map((f) => ({ ...f })),
          floating: [...s.floating],
        })),
      }
    },
    example: {
      elements: [
        { id: 'PS', type: 'supply', nodes: { p: 'P', n: '0' } },
        { id: 'LT', type: 'tx2', nodes: { plus: 'P', minus: 'B' }, params: { i: 0.012 } },
        { id: 'AI', type: 'ai', nodes: { in: 'B', com: '0' } },
      ],
      then: [{ set: [['LT', 'i', 0.02]] }],
    },
  }),
]
