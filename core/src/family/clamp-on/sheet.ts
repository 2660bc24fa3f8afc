import { sayNumber } from '../../quantity/round.ts'
import type { Setting } from '../../quantity/setting.ts'
import { channelLines, channelsOf } from '../channel-plan.ts'
import type { SheetLine } from '../family.ts'
import { DISTURBANCES } from './advice.ts'
import { GROUPS, type Entries } from './settings.ts'
import { positionOf } from './sensor-pair.ts'
import { isGas, type Site } from './site.ts'

/** What an option is called on the form. */
function titleOf(name: string, value: string): string {
  const all: readonly Setting[] = GROUPS.flatMap((g): readonly Setting[] => g.settings)
  const entry = all.find((x) => x.name === name)
  return entry?.kind === 'choice' ? (entry.options.find((o) => o.value === value)?.title ?? value) : value
}
const orBlank = (text: string) => (text.trim() === '' ? 'not entered' : text.trim())

/** A clamp-on meter in the order in which it is keyed in. */
export function clampOnSheet(s: Entries, site: Site): SheetLine[] {
  const gas = isGas(s)
  const { fluid } = site
  const nu = fluid.viscosity_Pa_s / fluid.density_kg_m3
  const behind = s.second === 'none' ? '' : `, and behind it ${DISTURBANCES[s.second].title}`
  const full = `${sayNumber(s.flow_m3h, 6)} m³/h`
  const channels = channelsOf(s)
  const part = (name: string, lines: readonly (SheetLine | null)[]) =>
    lines.flatMap((l) => (l ? [{ ...l, part: name }] : []))
  return [
    ...part('Site', [
      {
        says: 'Name of the site',
        value: s.site.trim() === '' ? 'not entered' : s.site.trim().slice(0, s.siteMost).trimEnd(),
        trap: `at most ${sayNumber(s.siteMost)} characters`,
      },
      { says: 'Channel or path', value: s.path },
      {
        says: 'Units',
        value: 'mm, °C, kPa, m³/h',
        units: ['mm', 'degC', 'kPa', 'm3/h'],
        trap: 'before any number: inch and °F change them all',
      },
    ]),
    ...part('Pipe', [
      {
        says: 'Pipe outside diameter',
        value: `${site.od_mm.toFixed(2)} mm`,
        trap: 'a circumference is π times as large',
      },
      { says: 'Pipe wall', value: `${site.wall_mm.toFixed(2)} mm` },
      { says: 'Pipe material', value: titleOf('material', s.material) },
      {
        says: 'Liner',
        value: site.liner_mm > 0 ? `${titleOf('liner', s.liner)}, ${site.liner_mm} mm` : 'none',
      },
      {
        says: 'Straight run',
        value: `${sayNumber(s.upstream_D)} D after ${DISTURBANCES[s.disturbance].title}${behind}, ${sayNumber(s.downstream_D)} D behind`,
      },
    ]),
    ...part('Medium', [
      { says: 'Fluid', value: `${titleOf('fluid', s.fluid)}, ${sayNumber(s.t_C)} °C` },
      gas
        ? {
            says: 'Pressure',
            value: `${sayNumber(s.gauge_kPa)} kPa gauge`,
            trap: 'gauge, or absolute as the device asks',
          }
        : null,
      { says: 'Sound speed of the fluid', value: `${fluid.soundSpeed_m_s.toFixed(1)} m/s` },
      { says: 'Kinematic viscosity', value: `${(nu * 1e6).toFixed(3)} mm²/s` },
      { says: 'Density', value: `${fluid.density_kg_m3.toFixed(fluid.density_kg_m3 < 100 ? 3 : 1)} kg/m³` },
    ]),
    ...part('Sensors', [
      gas
        ? {
            says: 'Damping film',
            value:
              s.filmLayers > 0
                ? `${sayNumber(s.filmLayers)} layers, ${sayNumber(s.film_mm)} mm`
                : s.film
                  ? `${sayNumber(s.film_mm)} mm`
                  : 'none',
            trap: 'before the sensors; on both sides, no bubbles',
          }
        : null,
      {
        says: 'Sensors',
        value: `${orBlank(s.serialA)} upstream, ${orBlank(s.serialB)} downstream`,
        trap: 'the two cables exchanged read negative flow',
      },
      s.paths === '2'
        ? {
            says: 'Sensors of path 2',
            value: `${orBlank(s.serialA2)} upstream, ${orBlank(s.serialB2)} downstream`,
          }
        : null,
      s.frequency_MHz > 0 ? { says: 'Frequency', value: `${sayNumber(s.frequency_MHz)} MHz` } : null,
      s.calibration.trim() !== ''
        ? {
            says: 'Calibration number',
            value: s.calibration.trim(),
            trap: 'digit by digit; a pair brought from elsewhere keeps its own',
          }
        : null,
      s.port === 'untold'
        ? null
        : {
            says: 'Plugged in at',
            value: s.paths === '2' ? `port ${s.port}; path 2 at the other port` : `port ${s.port}`,
            trap: 'the set-up of another port reads another pipe',
          },
      { says: 'Traverses', value: String(site.traverses) },
      s.cable_m > 0 ? { says: 'Sensor cable', value: `${sayNumber(s.cable_m)} m` } : null,
      {
        says: 'Sensor spacing to set on the rail',
        value: positionOf(s, site).says,
        trap: 'between the inner faces, as this rail is read',
      },
    ]),
    ...part('Reading', [
      { says: 'Flow counts', value: s.bidirectional === 'yes' ? 'both ways' : 'forward only' },
      { says: 'Damping', value: `${sayNumber(s.damping_s)} s` },
      { says: 'Low cutoff', value: `${sayNumber(s.cutoff_m_s)} m/s`, trap: 'never 0' },
    ]),
    ...(channels.length > 0
      ? channelLines(channels, full)
      : part('Outputs and inputs', [{ says: 'Flow at 20 mA', value: `${full} actual` }])),
    ...part('Last', [
      {
        says: 'Save the site in the device',
        act: true,
        value: s.site.trim() === '' ? 'under its name' : s.site.trim().slice(0, s.siteMost).trimEnd(),
        trap: 'saved only on the screen, it is gone at the next power cycle',
      },
    ]),
  ]
}
