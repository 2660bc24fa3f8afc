import { describe, expect, test } from 'vitest'
import { procedureOf } from '../procedure/catalogue.ts'
import { sayStepDone } from '../procedure/say-step.ts'
import type { Step } from '../procedure/step.ts'
import { storyOf, type ToldEvent } from './story.ts'

const context = {
  tag: 'PT-1',
  range: { low: 0, high: 10, unit: 'bar(g)' },
  limits: { low: -1, high: 20 },
  kind: 'gauge',
  tolerance_pct: 0.5,
  tau_s: 1,
  manifold: null,
} as const
let n = 0
const event = (type: string, payload: unknown): ToldEvent => ({
  id: `e${++n}`,
  type,
  at: `2026-11-02T08:0${n % 10}:00.000Z`,
  by: 'u1',
  byName: 'Wren',
  payload,
})
const begun = () =>
  event('procedure.started', {
    procedure: 'zero-trim',
    revision: 3,
    context,
    withDevice: false,
    equipment: [],
  })

describe('a procedure, opened in the record', () => {
  test('each step has the title that was on the screen, not its program name', () => {
    const steps = procedureOf('zero-trim')?.steps(context) ?? []
    const [first] = steps
    const story = storyOf([
      begun(),
      event('procedure.step', { step: first?.id ?? '', ticks: first?.hold?.length ?? 0 }),
    ])
    expect(story.map((s) => s.title)).toEqual(['Procedure begun', first?.title])
    expect(story[1]).toMatchObject({ by: 'Wren', at: expect.stringContaining('2026-11-02') as string })
  })
  test.each([
    [
      'a step that its rules refuse is told all the same',
      'procedure.step',
      { step: 'none-such' },
      'Step done',
    ],
    ['an event of a later version is told as that', 'procedure.sung', { song: 1 }, 'Something newer'],
  ])('%s', (_what, type, payload, title) => {
    expect(storyOf([begun(), event(type, payload)]).at(-1)?.title).toBe(title)
  })
})

const step = (more: Partial<Step>): Step => ({ id: 's', kind: 'read', title: 'Read', says: '', ...more })
const done = { values: {}, choice: null, note: '', confirmedBy: '' }
describe('what was done in a step', () => {
  test.each([
    ['nothing to tell', { ...done, step: step({}) }, []],
    [
      'readings by their labels, with units, without noise',
      {
        ...done,
        step: step({ fields: [{ name: 'pv', label: 'Transmitter', unit: 'bar(g)' }], apply: 5 }),
        values: { pv: 5.0123456789012 },
      },
      ['applied 5', 'Transmitter 5.01235 bar g'],
    ],
    [
      'the choice in its own words, who confirmed it, and the note',
      {
        step: step({ kind: 'decide', choices: [{ value: 'leave', title: 'Leave it alone' }] }),
        values: {},
        choice: 'leave',
        confirmedBy: 'A. Operator',
        note: 'agreed by radio',
      },
      ['Leave it alone', 'confirmed by A. Operator', 'agreed by radio'],
    ],
  ])('%s', (_what, told, lines) => expect(sayStepDone(told)).toEqual(lines))
})
