import { describe, expect, test } from 'vitest'
import { mixtureOf } from './mixture.ts'

describe('a gas as it is typed', () => {
  test.each<[typed: string, told: object]>([
    ['methane 93.2; ethane 4,1', { methane: 0.932, ethane: 0.041 }],
    ['Methane: 93.2 %\nnitrogen = 2%', { methane: 0.932, nitrogen: 0.02 }],
    ['carbon dioxide 3', { carbon_dioxide: 0.03 }],
    ['carbon-dioxide3', { carbon_dioxide: 0.03 }],
    [' methane 50 ;; \n methane 40 ; ', { methane: 0.9 }],
    ['', {}],
  ])('%j', (typed, told) => {
    const mixture = mixtureOf(typed) as Record<string, number>
    expect(Object.keys(mixture)).toEqual(Object.keys(told))
    for (const [key, share] of Object.entries(told)) expect(mixture[key]).toBeCloseTo(share as number, 12)
  })
  test.each<[typed: string, says: RegExp]>([
    ['methane', /“methane” is not a component and its share/],
    ['swamp gas 20', /“swamp gas 20” is not a component.*methane.*carbon dioxide/],
    ['93.2 methane', /is not a component and its share/],
    ['methane 93.2 percent', /is not a component and its share/],
    ['methane 1.2.3,4', /“1\.2\.3,4” is not a share of methane/],
    ['ethane 4; argonaut 1', /argonaut 1/],
  ])('%j is told', (typed, says) => expect(mixtureOf(typed)).toMatch(says))
})
