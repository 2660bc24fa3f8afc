import type { Table } from '../chart.ts'
import { sayNumber } from '../quantity/round.ts'
import { convert, convertRangeEnd, differenceIn, printedUnit } from '../quantity/units.ts'
import { combine, type Budget, type BudgetLine, type Distribution } from '../statistics/budget.ts'
import type { MonteCarloTask } from '../statistics/monte-carlo.ts'
import { studentQuantile } from '../statistics/student-t.ts'
import { amountAt, suits, type Amount, type EquipmentFunction } from './equipment-spec.ts'
import type { LoopScale } from './reading-errors.ts'

/** One line of a comparison's budget; `c` turns its unit into % of the output span. */
export interface ComparisonLine extends BudgetLine {
  readonly title: string
  readonly unit: string
}
export interface KnownInstrument {
  readonly name: string
  readonly functions: readonly EquipmentFunction[]
}
/** What adds besides the instruments; everything may be left out. */
export interface ComparisonExtras {
  /** Standard deviation of repeated readings at one point, % of span, and how many there were. */
  readonly repeat_pct: number | null
  readonly repeats: number | null
  /** Effect of temperature, % of span per °C, and how far it is from where it was calibrated. */
  readonly temperature_pct_C: number | null
  readonly temperature_C: number | null
  /** Height between standard and device is known to ±, m, and its liquid's density. */
  readonly height_m: number | null
  readonly density_kg_m3: number | null
  /** The receiver's resistor is known to ±, % of its value: only where volts are read. */
  readonly shunt_pct: number | null
}
export const NO_EXTRAS: ComparisonExtras = {
  repeat_pct: null,
  repeats: null,
  temperature_pct_C: null,
  temperature_C: null,
  height_m: null,
  density_kg_m3: null,
  shunt_pct: null,
}
export interface ComparisonBudget {
  readonly lines: readonly ComparisonLine[]
  readonly budget: Budget
  /** What is not in it, said plainly. */
  readonly missing: readonly string[]
  /** Why what is applied is not known; null where a chosen instrument gives it. */
  readonly unknownApplied: string | null
}

const G_M_S2 = 9.80665
const LOOP = { low: 4, high: 20, unit: 'mA' } as const

/** Certificate, drift and step of one instrument at a value; `perUnit` is % of span for one of the function's unit. */
function instrumentLines(
  name: string,
  f: EquipmentFunction,
  value: number,
  perUnit: number,
): ComparisonLine[] {
  const unit = printedUnit(f.unit)
  const line = (what: string, size: number, distribution: Distribution): ComparisonLine[] =>
    size > 0 ? [{ title: `${name}, ${what}`, value: size, unit, distribution, c: perUnit }] : []
  const at = (a: Amount | null) => (a ? amountAt(a, f, value) : 0)
  return [
    ...line('certificate', at(f.uncertainty), 'normal2'),
    ...line('drift since', at(f.drift), 'rect'),
    ...line('step', f.resolution, 'resolution'),
  ]
}

interface Wanted {
  readonly low: number
  readonly high: number
  readonly unit: string
  /** What goes into the span of 100 %, in that unit. */
  readonly span: number
  readonly what: string
}
/** What is set on the standard where that is not the loop's own quantity; `perUnit` is input for one unit of it. */
export interface AppliedSpan {
  readonly low: number
  readonly high: number
  readonly unit: string
  readonly perUnit: number
}
/** Lines of the chosen instrument that takes a range, at its top, where percents of reading are largest. */
function linesFor(
  instruments: readonly KnownInstrument[],
  w: Wanted,
): { lines: ComparisonLine[]; missing: string[] } {
  const told = instruments.map((x) => ({ x, s: suits(x.functions, x.name, w.low, w.high, w.unit) }))
  const hit = told.find(({ s }) => s.kind === 'suits')
  if (hit?.s.kind === 'suits') {
    const f = hit.s.function
    if (!f.uncertainty)
      return {
        lines: [],
        missing: [`The certificate of ${hit.x.name} states no uncertainty in ${printedUnit(f.unit)}.`],
      }
    const largest = Math.max(Math.abs(w.low), Math.abs(w.high))
    const top = convertRangeEnd(largest, w.unit, f.unit)
    const one = differenceIn(1, f.unit, w.unit) ?? 1
    return {
      lines: instrumentLines(hit.x.name, f, top.kind === 'value' ? top.value : largest, (100 * one) / w.span),
      missing: [],
    }
  }
  const near = told.find(({ s }) => s.kind === 'outside')
  return {
    lines: [],
    missing: [near?.s.kind === 'outside' ? near.s.says : `No instrument was chosen for ${w.what}.`],
  }
}

/** Pascal for one metre of liquid, in a unit of pressure; null where the range is no pressure. */
function headPerMetre(density_kg_m3: number, unit: string): number | null {
  const told = convert(density_kg_m3 * G_M_S2, 'Pa', 'mbar')
  return told.kind === 'value' ? differenceIn(told.value, 'mbar', unit) : null
}

/**
 * Uncertainty of a loop comparison, % of the output span, from the instruments chosen and what adds to them.
 * Taken at the top of the range, where it is largest. Behind a square root it stands at full flow.
 * @see JCGM 100:2008
 */
export function comparisonBudget(
  scale: Pick<LoopScale, 'input'>,
  instruments: readonly KnownInstrument[],
  extras: ComparisonExtras = NO_EXTRAS,
  applied: AppliedSpan | null = null,
): ComparisonBudget {
  const { low, high, unit } = scale.input
  const span = Math.abs(high - low)
  const input = linesFor(instruments, {
    low: applied?.low ?? Math.min(low, high),
    high: applied?.high ?? Math.max(low, high),
    unit: applied?.unit ?? unit,
    // So much of what is set makes the whole span where it moves the input most.
    span: applied ? span / applied.perUnit : span,
    what: `what is applied (${printedUnit(applied?.unit ?? unit)})`,
  })
  const current = linesFor(instruments, { ...LOOP, span: 16, what: 'the loop current (mA)' })
  const lines: ComparisonLine[] = [...input.lines, ...current.lines]
  const { repeat_pct, repeats, temperature_pct_C, temperature_C, height_m, density_kg_m3, shunt_pct } = extras
  if (repeat_pct !== null && repeat_pct > 0 && repeats !== null && repeats >= 2)
    lines.push({
      title: `Repeatability of ${repeats} readings`,
      value: repeat_pct / Math.sqrt(repeats),
      unit: '% of span',
      distribution: 'normal1',
      c: 1,
      nu: repeats - 1,
    })
  if (temperature_pct_C !== null && temperature_C !== null && temperature_pct_C * temperature_C !== 0)
    lines.push({
      title: `Temperature, ${sayNumber(Math.abs(temperature_C), 3)} °C from where it was calibrated`,
      value: Math.abs(temperature_pct_C * temperature_C),
      unit: '% of span',
      distribution: 'rect',
      c: 1,
    })
  const head = height_m !== null && height_m > 0 ? headPerMetre(density_kg_m3 ?? 1000, unit) : null
  if (height_m !== null && head !== null)
    lines.push({
      title: 'Height between standard and device',
      value: height_m,
      unit: 'm',
      distribution: 'rect',
      c: (100 * head) / span,
    })
  if (shunt_pct !== null && shunt_pct > 0)
    lines.push({
      title: 'Resistor that the volts are read across',
      value: shunt_pct,
      unit: '% of its value',
      distribution: 'normal2',
      // At 20 mA, where a share of the resistor is the largest share of the span.
      c: 20 / 16,
    })
  return {
    lines,
    budget: combine(lines),
    missing: [...input.missing, ...current.missing],
    unknownApplied: input.missing[0] ?? null,
  }
}

/** The same lines as trials: every input drawn about nothing, the result in % of span. @see JCGM 101:2008 */
export const comparisonTask = (
  lines: readonly ComparisonLine[],
  options: Pick<MonteCarloTask, 'seed' | 'digits'> & { readonly leastBlocks?: number },
): MonteCarloTask => {
  const c = lines.map((l) => l.c)
  return {
    inputs: lines.map((l) => ({ value: 0, spread: l.value, distribution: l.distribution, nu: l.nu })),
    model: (x) => {
      let y = 0
      for (let i = 0; i < c.length; i++) y += (c[i] ?? 0) * (x[i] ?? 0)
      return y
    },
    ...options,
  }
}

/** Whether the formula is good enough here, by the trials, and the half width to go by. @see JCGM 101:2008, 8 */
export function againstTrials(
  b: Budget,
  trials: { readonly low: number; readonly high: number; readonly delta: number },
): { readonly validated: boolean; readonly d_low: number; readonly d_high: number; readonly U: number } {
  const k95 = studentQuantile(0.975, Number.isFinite(b.nuEff) ? Math.max(1, Math.floor(b.nuEff)) : Infinity)
  const U95 = k95 * b.uc
  const d_low = Math.abs(-U95 - trials.low)
  const d_high = Math.abs(U95 - trials.high)
  const validated = d_low <= trials.delta && d_high <= trials.delta
  return { validated, d_low, d_high, U: validated ? b.U : Math.max(-trials.low, trials.high) }
}

const DISTRIBUTION_WORDS: Readonly<Record<Distribution, string>> = {
  normal2: 'normal, k = 2',
  normal1: 'normal',
  rect: 'rectangular',
  tri: 'triangular',
  arcsine: 'arcsine',
  resolution: 'step',
}
/** The lines for reading and printing, the largest share first. */
export function budgetTable(lines: readonly ComparisonLine[], b: Budget): Table {
  const share = (u: number) => (b.uc > 0 ? (100 * u * u) / b.uc ** 2 : 0)
  const ranked = lines.map((l, i) => ({ l, u: b.u[i] ?? 0 })).sort((x, y) => y.u - x.u)
  return {
    title: 'Uncertainty of the comparison',
    columns: ['From', 'Known to ±', 'Taken as', 'u, % of span', 'Share'],
    rows: ranked.map(({ l, u }) => [
      l.title,
      `${sayNumber(l.value, 3)} ${l.unit}`,
      DISTRIBUTION_WORDS[l.distribution],
      sayNumber(u, 3),
      `${sayNumber(share(u), 2)} %`,
    ]),
  }
}
