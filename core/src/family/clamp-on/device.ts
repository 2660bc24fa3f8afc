import { isRefused } from '../../refused.ts'
import type { DeviceBehaviour } from '../../device/behaviour.ts'
import { keyedIn, keyedNumber, keyedShare } from '../../device/keyed.ts'
import { STOPPED_FLOW } from '../../device/tools/stopped-flow.ts'
import { channelSignals, channelsOf, type Carried } from '../channel-plan.ts'
import { transitTimes } from './beam.ts'
import { pathFromMean } from './profile.ts'
import type { Entries } from './settings.ts'
import { isGas, siteOf } from './site.ts'

const sites = new WeakMap<Entries, ReturnType<typeof siteOf>>()
/** The site of these entries, worked out once however often the stand-in is looked at. */
function siteKept(s: Entries): ReturnType<typeof siteOf> {
  const site = sites.get(s) ?? siteOf(s)
  sites.set(s, site)
  return site
}
/** What a healthy meter at this place shows of itself; null where the entries give no beam. */
function expected(s: Entries, fraction: number) {
  const site = siteKept(s)
  if (isRefused(site)) return null
  const { beam, fluid } = site
  const nu = fluid.viscosity_Pa_s / fluid.density_kg_m3
  const v = (fraction * s.flow_m3h) / 3600 / site.area_m2
  const path = pathFromMean(v, site.id_mm / 1000, nu, site.roughness_mm / 1000)
  return {
    velocity_m_s: v,
    soundSpeed_m_s: fluid.soundSpeed_m_s,
    transit_us: beam.tFixed_us + beam.tFluid_us,
    difference_ns: transitTimes(beam, fluid.soundSpeed_m_s, path.vPath_m_s).dt_ns,
  }
}

/** A sensor that stands so far from its best place hears a third of it, mm. */
const WIDTH_mm = 6
const heard = (off_mm: number) => Math.exp(-((off_mm / WIDTH_mm) ** 2))

/** Transit time through the wall, liquid or gas: sound speed, transit time and difference as the set-up has them. */
export const device: DeviceBehaviour<Entries> = {
  title: 'Clamp-on flow meter',
  tool: STOPPED_FLOW,
  fullRead_s: 110,
  healthCheck_s: 120,
  damping_s: 3,
  noise: 6e-4,
  zeroShare: 0.003,
  /**
   * Another bore than is there moves the flow with it: the velocity comes out inversely to the way that the device thinks
   * the sound took, the area by the square. A traverse more or less does the same.
   */
  gain: (s, keyed) => {
    const site = siteKept(s)
    if (isRefused(site)) return 1
    const [od, wall] = [keyedIn(keyed, 'Pipe outside diameter', 'mm'), keyedIn(keyed, 'Pipe wall', 'mm')]
    const traverses = keyedNumber(keyed, 'Traverses')
    const bore = keyedShare(od - 2 * (wall + site.liner_mm), site.id_mm)
    return bore / keyedShare(traverses, site.traverses)
  },
  startUp: { search_s: 40, ready_s: 30, moves: 'The downstream sensor', most_mm: 20 },
  signals: (at, s) => {
    // Before it is ready it has no signal, and tells nothing of one.
    const channels = (told: Pick<Carried, 'speed_m_s' | 'signal_pct' | 'velocity_m_s'> | null) =>
      channelSignals(channelsOf(s), {
        ...{ share: at.fraction, flow_m3h: s.flow_m3h, temperature_C: at.temperature_C },
        ...(told ?? { speed_m_s: null, signal_pct: null, velocity_m_s: null }),
        measures: told !== null,
      })
    if (!at.started) return channels(null)
    const e = expected(s, at.fraction)
    const signal = {
      name: 'signal_pct',
      figure: true,
      title: 'Signal',
      value: e
        ? Math.max(
            0,
            ((isGas(s) ? 68 : 84) - 35 * at.wear) * heard(at.offPlace_mm) + at.scatter('signal_pct'),
          )
        : 0,
      unit: '%',
      low: 40,
    }
    if (!e) return [signal, ...channels({ speed_m_s: null, signal_pct: 0, velocity_m_s: null })]
    const c = e.soundSpeed_m_s
    return [
      {
        name: 'soundSpeed_m_s',
        title: 'Speed of sound',
        value: c * (1 + 0.0004 * at.scatter('soundSpeed_m_s')),
        unit: 'm/s',
        low: 0.97 * c,
        high: 1.03 * c,
      },
      signal,
      { name: 'transit_us', title: 'Transit time', value: e.transit_us, unit: 'us' },
      {
        name: 'difference_ns',
        title: 'Time difference',
        value: e.difference_ns + 0.05 * at.scatter('difference_ns'),
        unit: 'ns',
      },
      ...channels({ speed_m_s: c, signal_pct: signal.value, velocity_m_s: e.velocity_m_s }),
    ]
  },
}
