import { DISTURBANCES } from '../family/clamp-on/advice.ts'
import { PIPE_MAKES } from '../media/other-pipes.ts'
import { ELECTRICAL } from './words/electrical.ts'
import { FLOW } from './words/flow.ts'
import { LEVEL_AND_PRESSURE } from './words/level-and-pressure.ts'
import { NUMBERS } from './words/numbers.ts'
import { TEMPERATURE_AND_PH } from './words/temperature-and-ph.ts'
import { VERIFICATION } from './words/verification.ts'

/**
 * What a calculation asks for and gives, in a technician’s words: by the name of the value in its schema, a title and
 * after a bar its unit. What lies in a value is named with a point: `cable.length`.
 */
export interface SumWords {
  readonly topic: string
  readonly asks: Readonly<Record<string, string>>
  readonly gives: Readonly<Record<string, string>>
  /** What it answers by a word, where that word means something else elsewhere. */
  readonly says?: Readonly<Record<string, string>>
}

/** The calculations that stand on their own; what belongs to a loop is worked out on its bench. */
export const SUMS: Readonly<Record<string, SumWords>> = {
  ...NUMBERS,
  ...ELECTRICAL,
  ...FLOW,
  ...LEVEL_AND_PRESSURE,
  ...TEMPERATURE_AND_PH,
  ...VERIFICATION,
}

/** Words for what a calculation answers by a word of its own. */
export const ANSWER_WORDS: Readonly<Record<string, string>> = {
  MEASURE: 'measuring',
  GREY_LOW: 'below the measuring range, not yet a failure',
  GREY_HIGH: 'above the measuring range, not yet a failure',
  FAIL_LOW: 'failure, low',
  FAIL_HIGH: 'failure, high',
  OPEN: 'open',
  OK: 'it fits',
  CHECK: 'look at it',
  FAULT: 'it does not fit',
  GOOD: 'good',
  SAME: 'the same',
  TRANSPOSED: 'two digits exchanged',
  DIFFERENT: 'another value',
  RECOGNISED: 'recognised',
  AMBIGUOUS: 'it could be more than one',
  UNKNOWN: 'none of them',
  NOT_YET: 'not yet',
  STABLE: 'it stands still',
  ELEVATED: 'elevated: the range begins below zero',
  SUPPRESSED: 'suppressed: the range begins above zero',
  NONE: 'none',
  PASS: 'in tolerance',
  CONDITIONAL_PASS: 'in tolerance, but not for certain',
  CONDITIONAL_FAIL: 'out of tolerance, but not for certain',
  FAIL: 'out of tolerance',
  REVIEW: 'compare with care',
  COMPARABLE: 'they compare',
  NOT_COMPARABLE: 'they do not compare',
  DYNAMIC: 'how fast it follows',
  CONVERGED: 'the trials agree',
  up: 'rising',
  down: 'falling',
}
/** Words of the choices that a calculation offers. */
export const CHOICE_WORDS: Readonly<Record<string, string>> = {
  ...PIPE_MAKES,
  ...Object.fromEntries(Object.entries(DISTURBANCES).map(([key, d]) => [key, d.title])),
  carbon_dioxide: 'carbon dioxide',
  hundredths: 'hundredths of a percent',
  bits12: '12 bit, 0 to 20 mA',
  'bits12-live': '12 bit, 4 to 20 mA',
  'bits15-live': '15 bit, 4 to 20 mA',
  'bits16-live': '16 bit, 4 to 20 mA',
  tx: 'in the transmitter',
  rx: 'in the receiver',
  none: 'nowhere',
  linear: 'linear',
  sqrt: 'square root',
  'pow3/2': 'to the power 3/2',
  'pow5/2': 'to the power 5/2',
  zero: 'nothing',
  corner: 'corner taps',
  flange: 'flange taps',
  'D-D/2': 'D and D/2 taps',
  level: 'level',
  distance: 'distance',
  filling: 'while filling',
  emptying: 'while emptying',
  max: 'the largest part',
  sum: 'the sum of the parts',
  min: 'the smallest part',
  up: 'rising',
  down: 'falling',
  normal2: 'certificate, k = 2',
  normal1: 'standard, k = 1',
  rect: 'limits, all alike',
  tri: 'limits, the middle likelier',
  arcsine: 'limits, the ends likelier',
  resolution: 'resolution, one step',
  horizontal: 'lying cylinder',
  vertical: 'upright cylinder',
  sphere: 'ball',
  rectangular: 'box',
  elliptical: 'elliptical head',
  torispherical: 'dished head',
  hemispherical: 'half ball',
  flat: 'flat',
  cone: 'cone',
}
