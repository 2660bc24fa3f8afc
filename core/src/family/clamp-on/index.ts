import { isRefused } from '../../refused.ts'
import { firstIn } from '../../signal/range-in.ts'
import { channelsOf, pulsesOf, senderOf } from '../channel-plan.ts'
import { defineFamily } from '../define.ts'
import { compute } from './compute.ts'
import { device } from './device.ts'
import { GROUPS } from './settings.ts'
import { fluidAt, siteOf, zeroLimits_m_s } from './site.ts'
import { clampOnSensor } from './sensor-pair.ts'
import { told } from './told.ts'
import { whatIf } from './what-if.ts'

/** Transit-time meters clamped on from outside, liquid and gas, one path or two. */
export const clampOn = defineFamily({
  id: 'clamp-on',
  title: 'Clamp-on transit time',
  usualWords: [['clamp on'], ['flow clamp on'], ['flow ultrasonic'], ['transit'], ['flow transit time']],
  groups: GROUPS,
  compute,
  ranges: (s) => [{ low: 0, high: s.flow_m3h, unit: 'm3/h' }],
  rangeEntries: () => ['flow_m3h'],
  start: ({ range, shows }) => {
    const r = firstIn([range, shows], 'm3/h')
    return r && r.high > 0 ? { flow_m3h: r.high } : {}
  },
  fluid: (s) => fluidAt(s, s.t_C),
  zeroInput: () => ({
    input: 0,
    unit: 'm3/h',
    says: 'Zero is the pipe full and still, both valves shut: nothing can be vented.',
  }),
  zeroLimits: (s) => {
    const { least, most } = zeroLimits_m_s(s)
    const site = siteOf(s)
    const area = isRefused(site) ? 0 : site.area_m2
    return { least: least * area * 3600, most: area > 0 ? most * area * 3600 : null, unit: 'm3/h' }
  },
  damping_s: (s) => s.damping_s,
  whatIf,
  sensor: clampOnSensor,
  device,
  appliedBy: () => 'flow',
  pulses: (s) => pulsesOf(channelsOf(s), s.flow_m3h),
  told,
  // What the channels were planned to be is what stands on the Wire bench.
  parts: (s) => ({ sender: senderOf(channelsOf(s)), cores: 2, feed: 'mains', into: 'analogue' }),
  references: ['portable meter', 'timed catch', 'tank draw-down'],
  needs: {
    kit: [
      'couplant for the wall’s temperature',
      'straps or magnets for the rail',
      'tape and thickness gauge',
      'abrasive and solvent for the paint',
      'paper strip to carry the line round (direct mode)',
      'film layers (gas)',
    ],
    cautions: [
      'Hot or cold pipes burn: measure the wall first; above 60 °C gloves.',
      'Work at height from a proper platform, tools tethered.',
      'Do not grind a coating that may hold lead, or lagging that may hold asbestos: stop and ask.',
    ],
  },
})
