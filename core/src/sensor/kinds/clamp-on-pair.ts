import { when } from '../../quantity/condition.ts'
import { choice, number, text, valuesOf, type Typed } from '../../quantity/setting.ts'
import { sayNumber } from '../../quantity/round.ts'
import { judgeBaseline } from '../pair-baseline.ts'
import { pairProblem } from '../pair-serials.ts'
import type { SensorKind } from '../sensor-kind.ts'

/** The wedge: a plate and a set-up have the same entries of it. */
export const WEDGE = [
  number('wedge_m_s', 'Wedge sound speed', 'm/s', 2470, 500, 4000),
  number('wedge_deg', 'Wedge angle', 'deg', 38, 5, 80),
  number('wedge_mm', 'Wedge height', 'mm', 15, 0, 100),
  number('face_mm', 'Exit point (behind the inner face)', 'mm', 0, -100, 100),
] as const
/** Temperature class and rail, likewise. */
export const CLASS_AND_RAIL = [
  number('coldest_C', 'Coldest wall', 'degC', -30, -200, 100),
  number('hottest_C', 'Hottest wall', 'degC', 130, 0, 650),
  choice('rail', 'Its rail is read in', 'mm', { mm: 'millimetres', index: 'index numbers' }),
  number('railFirst_mm', 'Spacing at index 1', 'mm', 20, -200, 2000, when('rail', 'index')),
  number('railStep_mm', 'From one index to the next', 'mm', 5, 0.5, 200, when('rail', 'index')),
  number('railLast', 'Last index', '', 40, 1, 1000, when('rail', 'index')),
] as const

/** Plate of a pair that is clamped on; wedge and rail are the maker's and are typed once, in the workshop. */
export const PAIR_SETTINGS = [
  text('serialA', 'Serial of A, upstream', ''),
  text('serialB', 'Serial of B, downstream', ''),
  text('calibration', 'Calibration number', ''),
  choice('medium', 'Made for', 'liquid', { liquid: 'liquid', gas: 'gas' }),
  number('frequency_MHz', 'Frequency, MHz', '', 1, 0.05, 10),
  ...WEDGE,
  number('length_mm', 'Length along the pipe', 'mm', 60, 5, 500),
  ...CLASS_AND_RAIL,
  text('block', 'Block or pipe of its bench checks', ''),
  number('newSignal_pct', 'Signal on it when new, % (0: not known)', '', 0, 0, 100),
  number('newGain_dB', 'Gain left when new, dB (0: not known)', '', 0, 0, 120),
  number('lastSignal_pct', 'Signal at the last check, % (0: none yet)', '', 0, 0, 100),
  number('lastGain_dB', 'Gain left at the last check, dB (0: none yet)', '', 0, 0, 120),
  text('kit', 'Belongs to the portable kit', ''),
] as const

export const clampOnPair: SensorKind = {
  id: 'clamp-on-pair',
  title: 'Clamp-on pair',
  titles: 'Clamp-on pairs',
  settings: PAIR_SETTINGS,
  says: (typed: Typed) => {
    const s = valuesOf(PAIR_SETTINGS, typed)
    return `${s.medium}, ${sayNumber(s.frequency_MHz)} MHz, wedge ${sayNumber(s.wedge_deg)}° in ${sayNumber(s.wedge_m_s)} m/s, ${sayNumber(s.coldest_C)} to ${sayNumber(s.hottest_C)} °C, rail in ${s.rail === 'mm' ? 'mm' : 'index numbers'}`
  },
  judge: (typed) => {
    const told = judgeBaseline(valuesOf(PAIR_SETTINGS, typed))
    return told ? [told] : []
  },
  problems: (typed) => {
    const s = valuesOf(PAIR_SETTINGS, typed)
    const mixed = pairProblem(s.serialA, s.serialB)
    return [
      ...(s.serialA.trim() === '' ? [{ name: 'serialA', says: 'A pair is known by the serial of A.' }] : []),
      ...(s.serialB.trim() === '' ? [{ name: 'serialB', says: 'A pair is known by the serial of B.' }] : []),
      ...(mixed ? [{ name: 'serialB', says: mixed.says }] : []),
      ...(s.coldest_C >= s.hottest_C
        ? [{ name: 'hottest_C', says: 'The hottest wall is above the coldest one.' }]
        : []),
    ]
  },
}
