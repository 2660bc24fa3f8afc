import type { z } from 'zod'
import { expect, test } from 'vitest'
import { StageSchema } from './schema.ts'
import { LINEAR } from './transfer.ts'
import type { Stage } from './stage.ts'

/** Each way compiles only as long as the schema and the type of a stage say the same. */
const fromSchema = (s: z.output<typeof StageSchema>): Stage => s
const toSchema = (s: Stage): z.output<typeof StageSchema> => s

test('a stage goes through its schema and comes out as the same stage', () => {
  const stage: Stage = {
    kind: 'controller',
    range: { low: 0, high: 85, unit: 'bar(g)' },
    transfer: LINEAR,
  }
  expect(fromSchema(toSchema(stage))).toBe(stage)
})
