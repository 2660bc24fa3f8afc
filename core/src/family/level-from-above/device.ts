import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { keyedIn, keyedShare } from '../../device/keyed.ts'
import { TARGET } from '../../device/tools/target.ts'
import { fullDistance_m } from './compute.ts'
import type { Entries } from './settings.ts'

/** Level from above, by sound or radar: a time of flight becomes a distance. */
export const device: DeviceBehaviour<Entries> = {
  title: 'Level transmitter, from above',
  tool: TARGET,
  fullRead_s: 100,
  healthCheck_s: 90,
  damping_s: 2,
  noise: 2e-4,
  zeroShare: 0.006,
  // A level is what is left of the empty distance: keyed in too long, every level is too high by as much.
  offset: (s, keyed) => {
    const empty_m = keyedIn(keyed, 'Empty distance', 'm')
    const asDistance = s.points === 'distance' || s.points === 'ownDistance'
    const off = asDistance || keyedShare(empty_m, s.empty_m) === 1 ? 0 : empty_m - s.empty_m
    const is = s.empty_m - fullDistance_m(s)
    return { value: off, unit: 'm', span: { is, became: is + off } }
  },
  signals: (at) => {
    const far = 1 - at.fraction
    return [
      {
        name: 'distance',
        title: 'Distance',
        value: 0.3 + far * Math.abs(at.range.high - at.range.low),
        unit: at.range.unit,
      },
      {
        name: 'echo_pct',
        figure: true,
        title: 'Echo',
        // The farther the weaker; foam and a dirty face take their part.
        value: Math.max(0, 92 - 40 * far - 25 * at.wear + 1.5 * at.scatter('echo_pct')),
        unit: '%',
        low: 30,
      },
      {
        name: 'air_C',
        title: 'Air temperature',
        value: at.temperature_C + 0.2 * at.scatter('air_C'),
        unit: 'degC',
        low: -20,
        high: 60,
      },
    ]
  },
}
