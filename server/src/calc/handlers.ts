import type { Calculation } from '@calm/core/calculation'
import { calculationNamed, CATALOGUE } from '@calm/core/catalogue'
import { calculations, loops } from '@calm/contract/api/addresses'
import { sumInWords } from '@calm/core/sums/in-words'
import { SUMS } from '@calm/core/sums/words'
import { sumKept } from '@calm/core/record/kinds/sum-kept'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import { loopIdOf } from '../loops/store.ts'
import { appendOnce } from '../record/append-once.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { outOfReason } from './out-of-reason.ts'
import { calculate, calculateLong } from './work.ts'

/** @throws HttpProblem 422 with the path of each wrong value, below `under` */
async function resultFor(
  pool: Pool,
  c: Calculation,
  input: unknown,
  gone: AbortSignal,
  under = '',
): Promise<unknown> {
  const told = resultOf(
    await pool.run(c.isLong ? calculateLong : calculate, { calculation: c.name, input }, { signal: gone }),
  ) ?? {
    kind: 'refused' as const,
    problems: [outOfReason(input)],
  }
  if (told.kind === 'result') return told.result
  throw new HttpProblem(
    'wrong-values',
    'Some values cannot be used.',
    told.problems.map(({ where, says, code }) => ({
      path: [under, where].filter((part) => part !== '').join('.'),
      says,
      code,
    })),
  )
}

export const calcHandlers = (db: Database, pool: Pool, clock: Clock): Bound[] => [
  bind(calculations.list, () =>
    CATALOGUE.map(({ name, title, source, example }) => ({ name, title, source, example })),
  ),
  bind(calculations.compute, async ({ params, body, gone }) => {
    const c = calculationNamed(params.name)
    if (!c) throw notFound('calculation')
    return resultFor(pool, c, body, gone)
  }),
  bind(loops.keepSum, async ({ params, body, person, gone }) => {
    const { id, at, calculation, input, note } = body
    const loopId = await loopIdOf(db, params.loop)
    const c = calculation in SUMS ? calculationNamed(calculation) : undefined
    if (!c)
      throw new HttpProblem('wrong-values', 'Some values cannot be used.', [
        { path: 'calculation', says: 'There is no quick sum of this name.' },
      ])
    const result = await resultFor(pool, c, input, gone, 'input')
    const { title, source } = c
    const payload = sumKept.payload.parse({
      calculation,
      input,
      note,
      title,
      source,
      ...sumInWords(c, input, result),
    })
    return {
      stored: await appendOnce(db, loopId, { id, at, type: sumKept.type, payload }, person, clock()),
    }
  }),
]
