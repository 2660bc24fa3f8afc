import { familyOf } from '@calm/core/family/index'
import { INPUT_WORDS_SAYS } from '@calm/core/part/input-words'
import { DATE_FORM_SAYS } from '@calm/core/quantity/date-form'
import { DECIMAL_SIGN_SAYS } from '@calm/core/quantity/decimal-sign'
import { WATER_SAYS } from '@calm/core/quantity/water-column'
import { RULE_WORDS } from '@calm/core/verify/decision'
import { PLANT_UNITS } from '@calm/core/quantity/asked-in'
import { SCHOOL_NAMES } from '@calm/core/part/wiring'
import { ANY_KIND } from '@calm/core/loop/usual'

const NAMES: Readonly<Record<string, string>> = {
  water: 'Water of water columns',
  'letterhead.name': 'Name of the plant',
  'letterhead.address': 'Its address',
  'letterhead.country': 'Its country',
  paper: 'Paper',
  'dates.form': 'Days on papers',
  'dates.timeZone': 'Time zone on papers',
  decimalSign: 'Decimals on papers',
  decision: 'Decision rule',
  'signing.second': 'A second signature means',
  'signing.apart': 'Nobody reviews own work',
  'gates.still_s': 'A reading is looked at for, s',
  'gates.apart_s': 'Two typed readings lie apart by, s',
  'gates.input_pct': 'The input is right within, % of span',
  'gates.shift_pct': 'A trim shifts a reading by at most, % of the upper limit',
  'gates.health_pct': 'Figures of a health check may change by, %',
  'gates.rate_KPerMin': 'At rest a temperature changes by less than, K/min',
  wireColours: 'Wire colours of a new wiring',
  inputWords: 'Sinking and sourcing are said',
  retention_years: 'Records are kept for, years',
}
const PARTS: Readonly<Record<string, string>> = {
  tolerance_pct: 'tolerance, % of span',
  interval_months: 'interval, months',
  signatures: 'signatures',
}

const PLAN_PARTS: Readonly<Record<string, string>> = {
  levels_pct: 'points, %',
  way: 'order',
  repeats: 'times',
  seed: 'number of the random order',
}
export const APART_WORDS = {
  signed: 'who signed it as done does not review it',
  worked: 'who recorded anything in it does not review it',
} as const
/** What stands behind what is stored, where the page says it otherwise. */
const SAID: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  water: WATER_SAYS,
  'dates.form': DATE_FORM_SAYS,
  decision: RULE_WORDS,
  'signing.apart': APART_WORDS,
  wireColours: SCHOOL_NAMES,
  decimalSign: DECIMAL_SIGN_SAYS,
  inputWords: INPUT_WORDS_SAYS,
}

/** A rule of the plant as the page calls it, by its path. */
export function ruleName(path: string): string {
  const [first = '', second = '', third] = path.split('.')
  if (first === 'byKind') {
    const kind = second === ANY_KIND ? 'Any other kind' : (familyOf(second)?.title ?? second)
    return third === undefined ? kind : `${kind}: ${PARTS[third] ?? third}`
  }
  if (first === 'plans')
    return `Test plan ${second}${third === undefined ? '' : `: ${PLAN_PARTS[third] ?? third}`}`
  if (first === 'sheetOrder') {
    const [family = '', device] = second.split('/')
    return `Order of settings sheets, ${familyOf(family)?.title ?? family}${device === undefined ? '' : `, ${device}`}`
  }
  if (first === 'units') return PLANT_UNITS.find((u) => u.unit === second)?.of ?? 'Units'
  return NAMES[path] ?? path
}

/** What was decided of a rule, in the words of the page. */
export function ruleValue(path: string, text: string): string {
  const said = SAID[path]?.[text]
  if (said !== undefined) return said
  if (!text.startsWith('{') && !text.startsWith('[')) return text
  const told: unknown = JSON.parse(text)
  if (Array.isArray(told)) return told.length > 6 ? `${told.length} lines` : told.join(', ')
  return Object.entries(told as Record<string, unknown>)
    .filter(([, v]) => v !== null)
    .map(([part, v]) => `${PARTS[part] ?? part} ${typeof v === 'object' ? JSON.stringify(v) : String(v)}`)
    .join(', ')
}
