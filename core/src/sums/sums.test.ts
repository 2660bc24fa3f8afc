import { describe, expect, test } from 'vitest'
import { z } from 'zod'
import { answer, type Calculation } from '../calculation.ts'
import { CATALOGUE, calculationNamed } from '../catalogue.ts'
import { sumFields, type SumField } from './fields.ts'
import { sumInWords } from './in-words.ts'
import { answerInSentences, sayAnswer } from './say-answer.ts'
import { inputOf, typedFields, type Typed, type Wrong } from './typed.ts'
import { ANSWER_WORDS, SUMS } from './words.ts'

/** Worked out on a bench, with a loop, or of use to programs only: not among the quick sums. */
const NOT_HERE = [
  'units.list',
  'numbers.parse',
  'numbers.round',
  'signal.forward',
  'signal.inverse',
  'circuit.solve',
  'wire.connect',
  'wire.judge',
  'electrical.ne43',
  'electrical.tripRelay',
  'pressure.manifold',
  'scale.audit',
  'scale.pocketCard',
  'scale.explain',
  'scale.locate',
  'scale.nextMeasurement',
  'device.transmitter',
  'trim.plausible',
  'trim.recommend',
  'procedure.order',
  'procedure.abort',
  'procedure.manifold',
  'uncertainty.generator',
  // Of many samples, and of a whole day: no form.
  'logs.sniff',
  'logs.statistics',
  'logs.judge',
  'logs.stable',
  'logs.total',
  'logs.compare',
  'logs.pyramid',
  'logs.bestPosition',
  'plan.check',
  'plan.cost',
  'plan.solve',
  'plan.kit',
  'plan.bottle',
  'plan.usualTime',
]
const named = (name: string): Calculation => {
  const c = calculationNamed(name)
  if (!c) throw new Error(`no ${name}`)
  return c
}
const all = Object.keys(SUMS).map((name) => [name, named(name)] as const)

test('every calculation is a quick sum or has its place elsewhere', () => {
  expect([...Object.keys(SUMS), ...NOT_HERE].sort()).toEqual(CATALOGUE.map((c) => c.name).sort())
})

const leaves = (fields: readonly SumField[]): SumField[] =>
  fields.flatMap((f) => [
    f,
    ...(f.kind === 'group' ? leaves(f.fields) : []),
    ...(f.kind === 'rows' ? leaves(f.columns) : []),
    ...(f.kind === 'variant' ? f.variants.flatMap((v) => leaves(v.fields)) : []),
  ])

describe.each(all)('%s', (_name, c) => {
  test('every field and every choice has a human title', () => {
    const fields = leaves(sumFields(c))
    expect(fields.filter((f) => f.title === '').map((f) => f.name)).toEqual([])
    const choices = fields.flatMap((f) =>
      f.kind === 'choice' ? f.choices : f.kind === 'variant' ? f.variants : [],
    )
    expect(choices.filter((x) => /^[a-z]+[A-Z_]|^[a-z]+-[a-z]+$/.test(x.title)).map((x) => x.title)).toEqual(
      [],
    )
  })
  test('every word that it can answer is a technician’s', () => {
    const words = { ...ANSWER_WORDS, ...SUMS[c.name]?.says }
    const found: string[] = []
    const walk = (x: unknown): void => {
      if (typeof x !== 'object' || x === null) return
      const { enum: some, const: one } = x as { enum?: unknown[]; const?: unknown }
      for (const v of [...(some ?? []), one])
        if (typeof v === 'string' && /[A-Z]{2}|_/.test(v) && !(v in words)) found.push(v)
      Object.values(x).forEach(walk)
    }
    walk(z.toJSONSchema(c.output, { unrepresentable: 'any' }))
    expect(found).toEqual([])
  })
  test('opens with its example, computes it, and answers in words', () => {
    const wrong: Wrong = new Map()
    const fields = sumFields(c)
    const input = inputOf(fields, typedFields(fields, c.example), wrong)
    expect([...wrong]).toEqual([])
    const told = answer(c, input)
    const wanted = answer(c, c.example)
    expect(told).toEqual(wanted)
    if (told.kind !== 'result') throw new Error('refused')
    const said = sayAnswer(c, told.result)
    const titles = [
      ...said.lines.map((l) => l.title),
      ...said.tables.flatMap((t) => t.columns.map((x) => x.title)),
    ]
    expect(titles.length).toBeGreaterThan(0)
    expect(titles.every((t) => t !== '')).toBe(true)
    // No digits that nobody can measure, no program words in capitals, no JSON.
    for (const line of answerInSentences(said)) {
      expect(line).not.toMatch(/[A-Z]+_[A-Z]|[{}[\]"]/)
      for (const number of line.match(/\d+\.\d+/g) ?? [])
        expect(number.replace('.', '').replace(/^0+/, '').length, number).toBeLessThanOrEqual(7)
    }
  })
})

describe('what is typed into a form', () => {
  const fields = sumFields(named('ph.calibrate'))
  const read = (points: Typed) => {
    const wrong: Wrong = new Map()
    return { input: inputOf(fields, { points }, wrong), wrong: [...wrong] }
  }
  test('rows become things, with a decimal comma', () => {
    expect(read([{ buffer: '4.005', mV: '173,4', t: '21.4' }]).input).toEqual({
      points: [{ buffer: '4.005', mV: 173.4, t: 21.4 }],
    })
  })
  test('an empty row is no row', () => {
    expect(read([{ buffer: '', mV: '', t: '' }]).input).toEqual({ points: [] })
  })
  test('what cannot be read is told at its cell', () => {
    expect(read([{ buffer: '4.005', mV: 'much', t: '' }]).wrong).toEqual([
      ['points.0.mV', expect.stringMatching(/is not a number/) as string],
    ])
  })
  test('a unit in a number is told', () => {
    expect(read([{ buffer: '4.005', mV: '173 mV', t: '' }]).wrong[0]?.[1]).toMatch(/unit stands beside/)
  })
  test('a choice of numbers is a number again; another choice stays a word', () => {
    const beam = sumFields(named('flow.clampOn'))
    expect(inputOf(beam, { traverses: '3' }, new Map())).toMatchObject({ traverses: 3 })
    expect(inputOf(beam, { traverses: 'five' }, new Map())).not.toHaveProperty('traverses')
  })
  test('a kind of tank has its own fields', () => {
    const tank = sumFields(named('tank.volume'))
    expect(inputOf(tank, { tank: { shape: 'sphere', D: '3', L: '9' }, h: '1' }, new Map())).toEqual({
      tank: { shape: 'sphere', D: 3 },
      h: 1,
    })
  })
})

test('no word of an answer is shouted', () => {
  expect(Object.values(ANSWER_WORDS).filter((w) => /[A-Z]{3,}/.test(w))).toEqual([])
})

/** More than eight digits that mean something, in one number with a point. */
const isNoisy = (line: string) =>
  [...line.matchAll(/\d+\.\d+/g)].some(([n]) => n.replace('.', '').replace(/^0+/, '').length > 8)

describe('a sum as a record keeps it', () => {
  test.each(all)('%s: what went in and what came out, in words without noise', (_, c) => {
    const result = answer(c, c.example)
    if (result.kind !== 'result') throw new Error('the example has an answer')
    const { asked, answer: found } = sumInWords(c, c.example, result.result)
    const text = [...asked, ...found]
    expect(asked.length).toBeGreaterThan(0)
    expect(found.length).toBeGreaterThan(0)
    expect(text.filter((line) => /undefined|null|NaN|\[object|[{}]/.test(line) || isNoisy(line))).toEqual([])
    expect(text.filter((line) => !line.endsWith('.'))).toEqual([])
  })
})
