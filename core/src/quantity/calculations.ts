import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { refused } from '../refused.ts'
import { parseNumber } from './parse-number.ts'
import { roundText, withUncertainty } from './round.ts'
import { convert, findUnit, STANDARD_BAROMETER_PA, UNITS } from './units.ts'

const unit = z.string().describe('a symbol or a common spelling: bar(g), m³/h, °C')

const unknown = (text: string, where: string) =>
  refused(`“${text}” is not a unit this program knows. Pick one from units.list.`, where)

export const quantityCalculations = [
  calculation({
    name: 'units.convert',
    title: 'Convert between units',
    source: 'Units by definition; SI brochure, NIST SP 811; water and mercury columns by stated density',
    input: z.strictObject({
      value: z.number(),
      from: unit,
      to: unit,
      p_baro: z.number().positive().default(STANDARD_BAROMETER_PA).describe('barometric pressure, Pa'),
    }),
    output: z.object({
      value: z.number(),
      unit: z.string(),
      exact: z.boolean(),
      assumed: z.string().optional(),
    }),
    run: ({ value, from, to, p_baro }) => {
      const [given, target] = [findUnit(from), findUnit(to)]
      if (!target) return unknown(to, 'to')
      if (!given) return unknown(from, 'from')
      const r = convert(value, given.symbol, target.symbol, p_baro)
      if (r.kind === 'refused') return { ...r, where: 'to' }
      return {
        value: r.value,
        unit: target.symbol,
        exact: r.exact,
        ...(r.assumed === undefined ? {} : { assumed: r.assumed }),
      }
    },
    example: { value: 35, from: 'inH2O@conv', to: 'kPa' },
  }),
  calculation({
    name: 'units.list',
    title: 'List the units of a dimension',
    source: 'The product’s unit table',
    input: z.strictObject({ dimension: z.string().optional() }),
    output: z.object({
      units: z.array(z.object({ symbol: z.string(), dimension: z.string(), definition: z.string() })),
    }),
    run: ({ dimension }) => ({
      units: UNITS.filter((u) => dimension === undefined || u.dimension === dimension).map((u) => ({
        symbol: u.symbol,
        dimension: u.dimension,
        definition: u.definition,
      })),
    }),
    example: { dimension: 'pressure_gauge' },
  }),
  calculation({
    name: 'numbers.parse',
    title: 'Read a typed number',
    source: 'Decimal point or comma; a single sign is always the decimal sign',
    input: z.strictObject({ text: z.string().max(100) }),
    output: z.object({ value: z.number(), rest: z.string(), doubt: z.string().optional() }),
    run: ({ text }) => {
      const p = parseNumber(text)
      if (p.kind === 'refused') return refused(p.says, 'text')
      if (p.kind === 'empty') return refused('Nothing was typed.', 'text')
      return { value: p.value, rest: p.rest, ...(p.doubt === undefined ? {} : { doubt: p.doubt }) }
    },
    example: { text: '1,5 bar' },
  }),
  calculation({
    name: 'numbers.round',
    title: 'Round half away from zero',
    source: 'Half away from zero on the shortest decimal text',
    input: z.strictObject({ value: z.number(), decimals: z.int().min(0).max(20) }),
    output: z.object({ text: z.string(), value: z.number() }),
    run: ({ value, decimals }) => {
      const text = roundText(value, decimals)
      return { text, value: Number(text) }
    },
    example: { value: 1.005, decimals: 2 },
  }),
  calculation({
    name: 'numbers.withUncertainty',
    title: 'Write a result with its uncertainty',
    source: 'JCGM 100, 7.2.6: uncertainty to two significant digits, value to the same decimal',
    input: z.strictObject({ y: z.number(), U: z.number().positive() }),
    output: z.object({ value: z.string(), uncertainty: z.string() }),
    run: ({ y, U }) => withUncertainty(y, U),
    example: { y: 50.08338, U: 0.01247 },
  }),
]
