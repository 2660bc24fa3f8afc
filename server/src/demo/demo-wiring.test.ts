import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Wiring } from '@calm/core/part/wiring'
import { RelayPlanSchema } from '@calm/core/signal/relay-plan'
import { judgeWiring } from '@calm/core/wire/proof/judge'
import type { Meant } from '@calm/core/wire/proof/states'
import { describe, expect, test } from 'vitest'
import { DemoDetails, DemoWiring } from './demo-files.ts'
import { demoWiring } from './demo-wiring.ts'

const read = (file: string): unknown =>
  JSON.parse(readFileSync(join(import.meta.dirname, '../../../demo', file), 'utf8'))
const all = DemoWiring.parse(read('wiring.json'))
const details = DemoDetails.parse(read('loop-details.json'))
/** What the sump’s controller moves its relays by: the range that the plant’s list has for it. */
const meantAt = (tag: string): Meant => {
  const plans = details.fields.find((f) => f.tag === tag && f.path === 'trips')?.value
  return {
    senses: null,
    relays: { plans: RelayPlanSchema.array().parse(plans ?? []), at4: 0.35, at20: 4.1, unit: 'm' },
  }
}
const stops = (w: Wiring, tag: string) => {
  const { verdict, complaints, statements } = judgeWiring(w, meantAt(tag))
  return verdict === 'proved' ? [] : [...complaints, ...statements.filter((s) => !s.held)]
}

describe('wiring of the demo plant', () => {
  test.each(all.filter((w) => Object.keys(w.parts).length > 0).map((w) => [w.tag, w] as const))(
    '%s',
    (_tag, demo) => {
      const w = demoWiring(demo)
      if (!w) throw new Error('nothing drawn')
      expect(Wiring.safeParse(w).error).toBeUndefined()
      const found = stops(w, demo.tag)
      expect(found.length > 0, demo.mistake?.says ?? JSON.stringify(found)).toBe(demo.mistake !== undefined)
    },
  )
  const mistakes: readonly [tag: string, code: string][] = [
    ['ZS-307', 'SENSOR_CARD_MISMATCH'],
    ['AT-204', 'NO_LOOP_CURRENT'],
    ['FT-206', 'DOUBLE_POWERED'],
    ['LI-303', 'CHANNEL_REVERSED'],
    ['LT-404', 'NOT_REGULATING'],
  ]
  test.each(mistakes)('%s is found as %s', (tag, code) => {
    const demo = all.find((w) => w.tag === tag)
    const w = demo && demoWiring(demo)
    expect(w ? stops(w, tag).map((f) => f.code) : []).toContain(code)
  })
})
