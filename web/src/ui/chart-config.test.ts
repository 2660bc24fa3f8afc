import type { Chart, Series } from '@calm/core/chart'
import { describe, expect, test } from 'vitest'
import { chartData, chartOptions } from './chart-config.ts'

const colour = (name: string) => `<${name}>`
const points: Series['points'] = [
  [0, 1],
  [10, 2],
]
const chart = (...series: Series[]): Chart => ({
  title: 'A chart',
  says: 'Two points',
  x: { label: 'Time', unit: 'h' },
  y: { label: 'Error', unit: '%' },
  series,
})
interface Drawn {
  readonly label: string
  readonly borderColor?: string
  readonly borderDash?: readonly number[]
  readonly pointBackgroundColor?: string
  readonly showLine?: boolean
  readonly fill?: string
  readonly type?: string
  readonly data: readonly { readonly x: number; readonly y: number }[]
}
const drawn = (...series: Series[]) => chartData(chart(...series), colour).datasets as unknown as Drawn[]

describe('what a chart of the core becomes on screen', () => {
  test('what a stand-in showed is in its own ink, never in that of what was measured', () => {
    const [line, marks] = drawn(
      { kind: 'line', name: 'reading', points, simulated: true },
      { kind: 'points', name: 'as found', points, simulated: true },
    )
    expect(line?.borderColor).toBe('<simulated>')
    expect(marks).toMatchObject({ borderColor: '<simulated>', pointBackgroundColor: '<simulated>' })
  })
  test('what was measured is copper; what is still open is hollow and dashed', () => {
    const [measured, open] = drawn(
      { kind: 'points', name: 'as found', points },
      { kind: 'points', name: 'as left', points, open: true },
    )
    expect(measured).toMatchObject({ pointBackgroundColor: '<copper>', borderDash: [], showLine: true })
    expect(open).toMatchObject({ pointBackgroundColor: '<surface>', borderDash: [3, 3] })
    expect(measured?.data).toEqual([
      { x: 0, y: 1 },
      { x: 10, y: 2 },
    ])
  })
  test('points apart are not joined', () => {
    expect(drawn({ kind: 'points', name: 'drift', points, apart: true })[0]?.showLine).toBe(false)
  })
  test('lines tell apart by their dashes, whatever stands between them', () => {
    const all = drawn(
      { kind: 'line', name: 'a', points },
      { kind: 'limit', name: 'limit', points },
      { kind: 'line', name: 'b', points },
      { kind: 'line', name: 'c', points },
    )
    const lines = all.filter((d) => d.label !== 'limit').map((d) => JSON.stringify(d.borderDash))
    expect(new Set(lines).size).toBe(3)
    expect(all[1]).toMatchObject({ borderColor: '<quiet>', borderDash: [6, 4] })
  })
  test('a band fills down to its lower edge, which the legend does not repeat', () => {
    const [above, below] = drawn({ kind: 'band', name: 'may be', points, below: [-1, -2] })
    expect(above?.fill).toBe('+1')
    expect(below?.data).toEqual([
      { x: 0, y: -1 },
      { x: 10, y: -2 },
    ])
    const filter = chartOptions(chart(), colour).plugins?.legend?.labels?.filter
    const shown = (text: string) => filter?.({ text } as never, {} as never)
    expect([shown('may be'), shown(below?.label ?? '')]).toEqual([true, false])
  })
  test('bars fill the axis; a chart that tells its ends has them', () => {
    const bars = chart({ kind: 'bars', name: 'n', points })
    expect(drawn({ kind: 'bars', name: 'n', points })[0]?.type).toBe('bar')
    expect(chartOptions(bars, colour).scales?.['x']).toMatchObject({ min: -5, max: 15 })
    const told = { ...chart(), x: { label: 'Level', unit: '%', from: 0, to: 100, step: 25 } }
    expect(chartOptions(told, colour).scales?.['x']).toMatchObject({
      min: 0,
      max: 100,
      ticks: { stepSize: 25, includeBounds: false },
    })
    expect(chartOptions(chart(), colour).scales?.['x']).not.toHaveProperty('min')
  })
  test('an axis writes its unit as people do, and a year as a year', () => {
    const told = chartOptions({ ...chart(), x: { label: 'Density', unit: 'kg/m3' } }, colour).scales?.['x']
    expect(told).toMatchObject({ title: { text: 'Density, kg/m³' } })
    const { callback } = (told as { ticks: { callback: (v: number) => string } }).ticks
    expect([callback(2026), callback(0.30000000000000004)]).toEqual(['2026', '0.3'])
  })
  test('one series needs no legend', () => {
    const display = (...s: Series[]) => chartOptions(chart(...s), colour).plugins?.legend?.display
    const line = { kind: 'line', name: 'a', points } as const
    expect([display(line), display(line, line)]).toEqual([false, true])
  })
})
