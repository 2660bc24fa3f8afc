import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Wiring } from '@calm/core/part/wiring'
import { judgeWiring } from '@calm/core/wire/proof/judge'
import { describe, expect, test } from 'vitest'
import { DemoWiring } from './demo-files.ts'
import { demoWiring } from './demo-wiring.ts'

const all = DemoWiring.parse(
  JSON.parse(readFileSync(join(import.meta.dirname, '../../../demo/wiring.json'), 'utf8')),
)
const stops = (w: Wiring) => {
  const { verdict, complaints, statements } = judgeWiring(w)
  return verdict === 'proved' ? [] : [...complaints, ...statements.filter((s) => !s.held)]
}

describe('wiring of the demo plant', () => {
  test.each(all.filter((w) => Object.keys(w.parts).length > 0).map((w) => [w.tag, w] as const))(
    '%s',
    (_tag, demo) => {
      const w = demoWiring(demo)
      if (!w) throw new Error('nothing drawn')
      expect(Wiring.safeParse(w).error).toBeUndefined()
      const found = stops(w)
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
    expect(w ? stops(w).map((f) => f.code) : []).toContain(code)
  })
})
