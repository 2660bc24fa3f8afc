import { unless, when } from '../../quantity/condition.ts'
import { asOptions, choice, number, titlesOf } from '../../quantity/setting.ts'
import { firstReadingGroup } from '../first-reading.ts'
import { group, type EntriesOf } from '../family.ts'
import { THERMOCOUPLES } from './thermocouple.ts'

/** What a first reading stands at before anybody enters one, °C. */
export const UNTOUCHED_C = 20
const isRtd = when('sensor', 'pt100', 'pt1000')
const isCouple = unless('sensor', 'pt100', 'pt1000')
/** What is in the pipe, with its heat transfer inside, W/(m² K); typical. */
export const FLUIDS = {
  water: { title: 'water, flowing', h: 1200 },
  slow: { title: 'water, slow', h: 300 },
  gas: { title: 'gas', h: 30 },
} as const

export const GROUPS = [
  group('Sensor and range', [
    choice('sensor', 'Sensor', 'pt100', {
      pt100: 'Pt100',
      pt1000: 'Pt1000',
      ...asOptions(THERMOCOUPLES, (t) => `thermocouple ${t}`),
    }),
    number('low_C', 'Temperature at 4 mA', 'degC', 0, -273.15, 2000),
    number('high_C', 'Temperature at 20 mA', 'degC', 100, -273.15, 2000),
    choice('rtdClass', 'Class', 'B', { AA: 'AA', A: 'A', B: 'B', C: 'C' }, isRtd),
    choice('build', 'Build', 'film', { film: 'film', wire: 'wire-wound' }, isRtd),
    choice('wires', 'Wires', '3', { '2': '2', '3': '3', '4': '4' }, isRtd),
    number('lead1_ohm', 'Lead 1', 'ohm', 0.4, 0, 1000, isRtd),
    number('lead2_ohm', 'Lead 2', 'ohm', 0.4, 0, 1000, isRtd),
    number('read_ohm', 'Resistance read (0: not yet)', 'ohm', 0, 0, 10_000, isRtd),
    choice('grade', 'Class', '2', { '1': '1', '2': '2' }, isCouple),
    number('cold_C', 'Cold junction', 'degC', 25, -50, 100, isCouple),
    number('read_mV', 'Voltage read (0: not yet)', 'mV', 0, -20, 100, isCouple),
    choice('burnout', 'On a broken sensor', 'high', { high: 'upscale', low: 'downscale' }),
    number('damping_s', 'Damping', 's', 1, 0, 100),
  ]),
  firstReadingGroup('degC', { standard: UNTOUCHED_C, min: -300, max: 3000 }),
  group('Mounting', [
    choice('mounting', 'Mounted', 'none', {
      none: 'not entered',
      well: 'in a well',
      pipe: 'clamped on a pipe',
    }),
    number('immersion_mm', 'Immersion in the flow', 'mm', 100, 0, 5000, when('mounting', 'well')),
    number('well_mm', 'Well diameter', 'mm', 12, 1, 100, when('mounting', 'well')),
    number('sensitive_mm', 'Sensitive length', 'mm', 15, 1, 200, when('mounting', 'well')),
    number('od_mm', 'Pipe outside diameter', 'mm', 114.3, 5, 3000, when('mounting', 'pipe')),
    number('wall_mm', 'Wall', 'mm', 6, 0.3, 200, when('mounting', 'pipe')),
    choice('inside', 'Inside', 'water', titlesOf(FLUIDS), when('mounting', 'pipe')),
    number('insulation_mm', 'Insulation', 'mm', 25, 0, 500, when('mounting', 'pipe')),
    number('ambient_C', 'Ambient', 'degC', 15, -50, 60, when('mounting', 'pipe')),
  ]),
] as const
export type Entries = EntriesOf<typeof GROUPS>
