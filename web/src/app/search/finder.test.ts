import { describe, expect, test } from 'vitest'
import { finder, type Entry } from './finder.ts'

const loops = [
  { tag: 'FT-101', service: 'Seawater intake main', area: '100 Intake' },
  { tag: 'PT-103', service: 'Intake pump discharge', area: '100 Intake' },
  { tag: 'FT-1010', service: 'Wash water', area: '300 Brine' },
  { tag: 'TT-205', service: 'Feed temperature', area: '200 Membranes' },
]
const benches = [
  { id: 'wire', title: 'Wire' },
  { id: 'set-up', title: 'Set up' },
  { id: 'verify', title: 'Verify' },
  { id: 'trim', title: 'Trim' },
]
const others: Entry[] = [
  {
    id: 'p',
    sort: 'place',
    title: 'Instruments',
    hint: 'place',
    also: 'test equipment calibrators',
    to: '/instruments',
  },
  { id: 'a', sort: 'action', title: 'Sign out', hint: 'action', also: 'leave' },
  { id: 'z', sort: 'procedure', title: 'Zero trim', hint: 'procedure', to: '/help/procedures' },
  {
    id: 'q',
    sort: 'quick sum',
    title: 'Convert between units',
    hint: 'quick sum',
    to: '/quick-sums/units.convert',
  },
  {
    id: 'w',
    sort: 'word',
    title: 'Hysteresis',
    hint: 'the difference between rising and falling',
    to: '/help/words',
  },
]
const find = finder(loops, benches, others)
const first = (query: string) => find(query)[0]?.title ?? null

describe('what is typed leads to', () => {
  test.each([
    ['FT-101', 'FT-101  Seawater intake main'],
    ['ft101', 'FT-101  Seawater intake main'],
    ['ft 101', 'FT-101  Seawater intake main'],
    ['FT-101 verify', 'FT-101  Verify'],
    ['ft101 set up', 'FT-101  Set up'],
    ['ft-101 setup', 'FT-101  Set up'],
    ['ft-101 ver', 'FT-101  Verify'],
    ['seawater', 'FT-101  Seawater intake main'],
    ['seawter', 'FT-101  Seawater intake main'],
    ['zero trim', 'Zero trim'],
    ['histeresis', 'Hysteresis'],
    ['convert', 'Convert between units'],
    ['test equipment', 'Instruments'],
    ['sign out', 'Sign out'],
    ['discharge wire', 'PT-103  Wire'],
  ])('%s', (query, title) => expect(first(query)).toBe(title))

  test('a number is meant as it is typed: 102 is not 101', () => {
    expect(find('FT-102')).toEqual([])
  })
  test('a tag in full brings its benches with it, before other loops', () => {
    expect(
      find('ft-101')
        .slice(0, 5)
        .map((e) => e.to),
    ).toEqual([
      '/loops/FT-101',
      '/loops/FT-101/wire',
      '/loops/FT-101/set-up',
      '/loops/FT-101/verify',
      '/loops/FT-101/trim',
    ])
  })
  test('nothing typed offers places and actions', () => {
    expect(find('  ').map((e) => e.sort)).toEqual(['place', 'action'])
  })
  test('nonsense finds nothing', () => expect(find('xqzzy')).toEqual([]))
  test('many loops do not push the one word out', () => {
    const many = Array.from({ length: 300 }, (_, i) => ({
      tag: `XT-${i}`,
      service: 'Zero trim station',
      area: '',
    }))
    expect(finder(many, benches, others)('zero trim').some((e) => e.id === 'z')).toBe(true)
  })
})
