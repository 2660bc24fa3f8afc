import { judgeMistakes } from './test/judge-mistakes.ts'

const root = (taker: 'transmitter' | 'controller' | null) => ({
  root: { takers: taker ? [taker] : [], finding: null },
})
const BASES = {
  water: {
    family: 'clamp-on',
    values: {
      by: 'od', od_mm: 219.1, wall_mm: 8.18, material: 'carbon_steel', fluid: 'water', t_C: 18, gauge_kPa: 400,
      flow_m3h: 250, upstream_D: 25, downstream_D: 8, serialA: '4471A', serialB: '4471B', frequency_MHz: 1,
      site: 'WASH', speedRead_m_s: 0,
    },
  },
  read: {
    family: 'clamp-on',
    values: {
      by: 'od', od_mm: 219.1, wall_mm: 8.18, material: 'carbon_steel', fluid: 'water', t_C: 18, gauge_kPa: 400,
      flow_m3h: 250, upstream_D: 25, downstream_D: 8, speedRead_m_s: 1476, signal_pct: 82, snr_dB: 31,
    },
  },
  gas: {
    family: 'clamp-on',
    values: {
      by: 'table', nps: '6', schedule: 'STD', fluid: 'natural_gas', t_C: 21, gauge_kPa: 900, flow_m3h: 400,
      upstream_D: 30, downstream_D: 8, filmLayers: 5, film_mm: 2.5, frequency_MHz: 0.2, length_mm: 40,
    },
  },
  coriolis: {
    family: 'coriolis',
    values: {
      flowFactor_certificate: '31.842', flowFactor_tag: '31.842', flowFactor_device: '31.842',
      flowTemperature_certificate: '5.08', flowTemperature_device: '5.08',
      lightPeriod_certificate: '8243.517', lightPeriod_device: '8243.517',
      heavyPeriod_certificate: '9766.284', heavyPeriod_device: '9766.284',
      lightDensity_certificate: '0.0012', lightDensity_device: '0.0012',
      heavyDensity_certificate: '0.9982', heavyDensity_device: '0.9982',
      densityTemperature_certificate: '4.40', densityTemperature_device: '4.40',
      bore_mm: 25, flow_kgh: 20000, least_kgh: 300, zs_kgh: 1.4, cutoff_kgh: 2.8,
    },
    at: root(null),
  },
  thermal: {
    family: 'thermal',
    values: {
      gas: 'air', gauge_kPa: 300, t_C: 25, fs_kgh: 2400, v_m_s: 14.1, restraint: 'cable', rated_N: 1000, room_m3: 5000,
      stackBy: 'pieces', valveBore_mm: 25,
    },
  },
  nozzle: {
    family: 'thermal',
    values: {
      gauge_kPa: 300, v_m_s: 14.1, restraint: 'cable', rated_N: 1000, room_m3: 5000, stackBy: 'pieces', valveBore_mm: 25,
      p0_list: '305 505 705 905', certified_list: '20.24 33.56 46.87 60.25', indicated_list: '20.3 33.6 46.8 60.1',
      after_kPa: 101,
    },
  },
  orifice: {
    family: 'orifice',
    values: { D_mm: 102.26, d_mm: 61, fluid: 'water', t_C: 31, gauge_kPa: 319, span_kPa: 40, cut_pct: 0.5 },
    at: root('transmitter'),
  },
} // prettier-ignore

judgeMistakes(BASES, [
  // Clamp-on: pipe, medium, place.
  ['circumference for diameter', 'water', { od_mm: 688.3 }, /circumference/i],
  ['inches for millimetres', 'water', { od_mm: 8.625 }, /possible is|inch/i],
  ['centimetres for millimetres', 'water', { od_mm: 21.9 }, /cm/i],
  ['radius for diameter', 'water', { od_mm: 109.55 }, /radius|half/i],
  ['wall in centimetres', 'water', { wall_mm: 81.8 }, /bore|wall/i],
  ['litres a minute for cubic metres an hour', 'water', { flow_m3h: 4167 }, /L\/min/i],
  ['litres an hour for cubic metres an hour', 'water', { flow_m3h: 250_000 }, /l\/h/i],
  ['boiling water', 'water', { t_C: 150, gauge_kPa: 100 }, /steam|boil/i],
  ['too near a pump', 'water', { disturbance: 'pump', upstream_D: 8 }, /50 D|pump/i],
  ['sensors of two pairs', 'water', { serialB: '4472B' }, /not a pair/i],
  ['A and B exchanged', 'water', { serialA: '4471B', serialB: '4471A' }, /negative/i],
  ['two sensors A', 'water', { serialB: '4471A' }, /other B/i],
  ['a gas sensor on a liquid: far too low a frequency', 'water', { frequency_MHz: 0.2 }, /low/i],
  ['a small sensor on a thick pipe', 'water', { wall_mm: 20, frequency_MHz: 4 }, /wavelength/i],
  ['a name the device cuts off', 'water', { site: 'WASH WATER LINE 2' }, /kept as/i],
  ['a cutoff of zero', 'water', { cutoff_m_s: 0 }, /never 0/i],
  ['too hot for the pair', 'water', { t_C: 140, gauge_kPa: 900 }, /made for walls/i],
  // Clamp-on: first reading.
  ['a liner nobody entered', 'read', { speedRead_m_s: 1379 }, /liner/i],
  ['salt water entered as water', 'read', { speedRead_m_s: 1517 }, /seawater|salt/i],
  ['another temperature', 'read', { speedRead_m_s: 1449 }, /°C/],
  ['a poor signal', 'read', { signal_pct: 31 }, /couplant/i],
  ['zero set with flow', 'read', { zero_m_s: 0.42 }, /not a zero/i],
  ['the two cables exchanged', 'read', { compared: 'yes', known: 120, reads: -121 }, /backwards/i],
  ['litres a minute at the receiver', 'read', { compared: 'yes', known: 120, reads: 2000 }, /L\/min/],
  ['two traverses told, four there', 'read', { compared: 'yes', known: 120, reads: 241 }, /traverses/i],
  ['the circumference in the device', 'read', { compared: 'yes', known: 120, reads: 401 }, /circumference/i],
  ['a device in cm told mm', 'read', { compared: 'yes', known: 12, reads: 120.2 }, /asks in cm/i],
  ['a device in mm told cm', 'read', { compared: 'yes', known: 120, reads: 12.1 }, /told cm/i],
  ['a factor per litre', 'read', { compared: 'yes', known: 0.12, reads: 120.4 }, /per litre/i],
  // Gas.
  ['actual for standard volume, at the reading', 'gas', { compared: 'yes', known: 200, reads: 2040 }, /standard/i],
  ['film forgotten', 'gas', { filmLayers: 0 }, /film/i],
  ['film of one layer entered as all', 'gas', { film_mm: 0.5 }, /film/i],
  ['pressure below the least', 'gas', { gauge_kPa: 120 }, /bar absolute is the least|least/i],
  ['standard volume entered as actual', 'gas', { flow_m3h: 4000 }, /standard|actual/i],
  // Coriolis.
  ['a decimal dropped', 'coriolis', { flowFactor_device: '318.42' }, /decimal point|moved/i],
  ['two digits exchanged', 'coriolis', { flowFactor_device: '38.142' }, /exchanged/i],
  ['periods exchanged', 'coriolis', { lightPeriod_device: '9766.284', heavyPeriod_device: '8243.517' }, /exchanged/i],
  ['density in the other unit', 'coriolis', { densityUnit: 'kg/m3' }, /unit|kg\/m³|g\/cm³/i],
  ['a bore in metres', 'coriolis', { bore_mm: 0.025 }, /metre|bore/i],
  ['the factor of another size', 'coriolis', { flowFactor_certificate: '3.1842', flowFactor_tag: '3.1842', flowFactor_device: '3.1842' }, /size|factor/i],
  ['bore typed in mm where cm are asked', 'coriolis', { memoryLost: true, boreUnit: 'cm', boreShown: 25 }, /typed in mm/i],
  ['current output left off', 'coriolis', { currentOn: 'off' }, /off/i],
  ['cutoff zero on a mass meter', 'coriolis', { cutoff_kgh: 0 }, /never 0/i],
  ['pulses too fast for the counter', 'coriolis', { limit_Hz: 1000 }, /Hz/],
  ['mounted against its arrow', 'coriolis', { compared: 'yes', known: 9000, reads: -9010 }, /direction/i],
  ['tonnes at the receiver', 'coriolis', { compared: 'yes', known: 9000, reads: 9.02 }, /t\/h/],
  ['a decimal of the factor, at the reading', 'coriolis', { compared: 'yes', known: 900, reads: 9050 }, /decimal point/i],
  // Thermal.
  ['outside diameter in the device', 'thermal', { compared: 'yes', known: 1500, reads: 1730 }, /outside diameter/i],
  ['base volume at the receiver', 'thermal', { compared: 'yes', known: 1500, reads: 1245 }, /base volume/i],
  ['outside diameter for the bore', 'thermal', { od_mm: 291.5 }, /bore|diameter/i],
  ['probe too short', 'thermal', { probe_mm: 470 }, /reach/i],
  ['no restraint at 7 bar', 'thermal', { gauge_kPa: 720, restraint: 'none' }, /shoot out/i],
  ['a valve narrower than the probe', 'thermal', { valveBore_mm: 15 }, /does not pass/i],
  ['no room above the valve', 'thermal', { fitting_mm: 20, above_mm: 0 }, /leave the packing/i],
  ['another gas', 'thermal', { gas: 'carbon_dioxide' }, /gas/i],
  ['full scale in pounds', 'thermal', { fs_kgh: 5291 }, /lb\/h/i],
  ['gauge pressures read as absolute', 'nozzle', { p0_unit: 'kPag' }, /absolute/i],
  ['psi read as kPa', 'nozzle', { p0_list: '44.2 73.2 102.3 131.3' }, /psi|outside|sonic/i],
  ['a meter 15 % high', 'nozzle', { indicated_list: '23.3 38.6 53.8 69.1' }, /Out of limits/i],
  ['nozzle not choked', 'nozzle', { after_kPa: 250 }, /not sonic/i],
  // Orifice.
  ['bore and pipe exchanged', 'orifice', { D_mm: 61, d_mm: 102.26 }, /not smaller/i],
  ['a plate outside the standard', 'orifice', { d_mm: 85 }, /β/],
  ['no root taken', 'orifice', { compared: 'yes', known: 30, reads: 14.67 }, /no square root/],
  ['the root taken twice', 'orifice', { compared: 'yes', known: 30, reads: 42.9 }, /twice/],
  ['the impulse lines exchanged', 'orifice', { compared: 'yes', known: 30, reads: -30.2 }, /impulse lines/],
  ['a span in mbar', 'orifice', { span_kPa: 400, gauge_kPa: 319 }, /span|differential|fast|mbar/i],
]) // prettier-ignore
