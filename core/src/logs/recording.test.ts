import { describe, expect, test } from 'vitest'
import { Generator } from '../statistics/generator.ts'
import { headOf, linesOf, recordedOf, recordingMapping, type LiveLook } from './recording.ts'
import { rowReader } from './sniff/read-rows.ts'

const W0 = Date.UTC(2026, 10, 30, 12, 0, 0)
/** A look at device time t: four readings a second since the one before. */
const look = (t_s: number, more: Partial<LiveLook> = {}, from_s = t_s - 1): LiveLook => ({
  wall_ms: W0 + 1000 * t_s,
  t_s,
  speed: 1,
  readings: Array.from({ length: Math.round((t_s - from_s) * 4) }, (_, i) => {
    const t = t_s - (Math.round((t_s - from_s) * 4) - 1 - i) / 4
    return { t_s: t, values: [t, 4 + t / 10] }
  }),
  ...more,
})

describe('what is recorded of a look', () => {
  test.each<[what: string, look: LiveLook, last: number | null, every: number, at: number[]]>([
    ['one reading a second', look(3, {}, 0), null, 1, [250, 1000, 2000, 3000]],
    ['one every two seconds', look(5, {}, 0), null, 2, [250, 2000, 4000]],
    ['not twice what came before', look(3, {}, 0), W0 + 2000, 1, [3000]],
    ['nothing new', look(3, {}, 0), W0 + 3000, 1, []],
    ['no reading', look(3, { readings: [] }), null, 1, []],
    // A minute of the device in a second on the wall: its four readings a second lie close.
    [
      'a device that runs ten times as fast',
      look(30, { wall_ms: W0 + 3000, speed: 10 }, 0),
      null,
      1,
      [25, 1000, 2000, 3000],
    ],
  ])('%s', (_, l, last, every, at) => {
    expect(recordedOf(l, last, every).map((r) => r.at_ms - W0)).toEqual(at)
  })
  test('a pause is a pause: no row for what nobody saw', () => {
    const first = recordedOf(look(2, {}, 0), null, 1)
    const later = recordedOf(look(60), first.at(-1)?.at_ms ?? null, 1)
    expect([...first, ...later].map((r) => r.at_ms - W0)).toEqual([250, 1000, 2000, 59_250, 60_000])
  })
  test('times rise and no step has two rows, however late the looks come', () => {
    const g = new Generator(77)
    for (let k = 0; k < 50; k++) {
      const every = 1 + Math.floor(5 * g.uniform())
      const rows: { at_ms: number }[] = []
      for (let t = 1; t < 60; t += 0.5 + g.uniform())
        rows.push(
          ...recordedOf(
            look(t, { wall_ms: W0 + 1000 * t + 300 * g.uniform() }, 0),
            rows.at(-1)?.at_ms ?? null,
            every,
          ),
        )
      const steps = rows.map((r) => Math.floor(r.at_ms / 1000 / every))
      expect(new Set(steps).size).toBe(rows.length)
      expect(steps).toEqual([...steps].sort((a, b) => a - b))
      expect(rows.length).toBeGreaterThanOrEqual(Math.floor(58 / every) - 1)
    }
  })
})

test('its lines are read back as what was recorded, nothing measured as no value', () => {
  const channels = [
    { name: 'Reading', unit: 'm3/h' },
    { name: 'Current', unit: 'mA' },
  ]
  const rows = [
    { at_ms: W0, values: [41.25, 12.5] },
    { at_ms: W0 + 1000, values: [null, 3.6] },
  ]
  const read = rowReader(recordingMapping(channels, 'UTC'))
  const lines = (headOf(channels) + linesOf(rows)).trimEnd().split('\n')
  expect(lines.map((text, i) => read(text, i + 1)).filter((r) => r !== null)).toMatchObject([
    { kind: 'row', t: W0, values: [41.25, 12.5] },
    { kind: 'row', t: W0 + 1000, values: [null, 3.6] },
  ])
})
