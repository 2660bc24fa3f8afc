import { describe, expect, test } from 'vitest'
import { rulesAsked } from './rules-asked.ts'
import type { Step } from './step.ts'

const step = (more: Partial<Step>): Step => ({ id: 's', title: 'S', kind: 'tell', says: '', ...more })
const pv = { name: 'pv', label: 'Reading', unit: 'pH' }
const bottle = step({ before: () => null })

describe('rules that a procedure is begun by', () => {
  test.each<[what: string, steps: Step[], withDevice: boolean, rules: number]>([
    ['without a step', [], true, 0],
    ['steps that always were so', [step({ gates: ['still'] })], true, 0],
    ['one that has its gates since', [step({}), step({ gatesSince: 3 })], false, 3],
    ['one that was put in since', [step({ since: 4 }), step({ gatesSince: 3 })], false, 4],
    ['the tool has to act over the link', [bottle], true, 4],
    ['a hand pours the bottle', [bottle], false, 0],
    ['a field that is looked at closer', [step({ fields: [{ ...pv, withinSince: 4 }] })], false, 4],
  ])('%s', (_, steps, withDevice, rules) => {
    expect(rulesAsked(steps, withDevice)).toBe(rules)
  })
})
