import { element, term, definePart } from '../part-kind.ts'
import { choice, number } from '../../quantity/setting.ts'

const cores = (s: { readonly cores: number }) => Array.from({ length: s.cores }, (_, i) => i + 1)

export const CABLE_SIZES = {
  '0.5': '0.5 mm²',
  '0.75': '0.75 mm²',
  '1': '1 mm²',
  '1.5': '1.5 mm²',
  '2.5': '2.5 mm²',
  awg24: '24 AWG',
  awg22: '22 AWG',
  awg20: '20 AWG',
  awg18: '18 AWG',
  awg16: '16 AWG',
  awg14: '14 AWG',
} as const

/** A cable's conductor as the circuit takes it: class 5 by area, or the gauge. SI units but mm². */
export const conductorOf = (s: {
  readonly size: keyof typeof CABLE_SIZES
  readonly length_m: number
  readonly temp_C: number
}) => {
  const size = s.size
  return {
    length: s.length_m,
    tempC: s.temp_C,
    ...(size.startsWith('awg')
      ? { awg: Number(size.slice(3)) }
      : { mm2: Number(size), iecClass: 5 as const }),
  }
}

/** The run of cable between field and cabinet; each core counts with its length. */
export const cable = definePart({
  kind: 'cable',
  title: 'Cable',
  place: 'run',
  duty: 'through',
  prefix: 'W',
  settings: [
    number('length_m', 'Length', 'm', 120, 0, 20_000),
    choice('size', 'Conductor', '1', CABLE_SIZES),
    number('cores', 'Cores', '', 2, 1, 12),
    number('temp_C', 'Hottest', '°C', 40, -40, 120),
  ],
  terminals: (s) => [
    ...cores(s).map((n) => term(`f${n}`, String(n), 'through', 'left')),
    ...cores(s).map((n) => term(`p${n}`, String(n), 'through', 'right')),
  ],
  lanes: (s) => cores(s).map((n) => [`f${n}`, `p${n}`] as const),
  label: (s) => `${s.length_m} m, ${s.cores} × ${CABLE_SIZES[s.size]}`,
  elements: (p) =>
    cores(p.s).map((n) => element(p, 'wire', { a: `f${n}`, b: `p${n}` }, conductorOf(p.s), `~${n}`)),
  kit: ['cable glands', 'core markers'],
  conductor: conductorOf,
})
