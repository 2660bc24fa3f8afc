import { judgeMistakes } from './test/judge-mistakes.ts'

const ULTRASONIC = {
  principle: 'ultrasonic', empty_m: 4, full_m: 0.6, blocking_m: 0.3, points: 'level', set_C: 15, gas_C: 15,
  shape: 'vertical', diameter_m: 3, shell_m: 3.8, head1: 'flat', head2: 'flat',
} // prettier-ignore
const RADAR = {
  principle: 'radar26', empty_m: 11, full_m: 0.9, blocking_m: 0.3, points: 'level', eps: 2.6, antenna_m: 0.08,
  lateral_m: 1.6, shape: 'vertical', diameter_m: 3.6, shell_m: 11.5,
} // prettier-ignore
const GUIDED = {
  probe: 'rod', probe_m: 2.6, topDead_m: 0.15, bottomDead_m: 0.08, eps: 70, points: 'level', zero_m: 2.7,
  level4_m: 0.2, level20_m: 2.5, shape: 'vertical', diameter_m: 2, shell_m: 2.6,
} // prettier-ignore
const strapping = Array.from({ length: 15 }, (_, i) => [i * 0.2, i * 0.9] as const)
const BASES = {
  ultrasonic: { family: 'level-from-above', values: ULTRASONIC },
  distance: {
    family: 'level-from-above',
    values: { ...ULTRASONIC, points: 'ownDistance', at4_m: 4, at20_m: 0.6 },
  },
  ownLevel: {
    family: 'level-from-above',
    values: { ...ULTRASONIC, points: 'ownLevel', level4_m: 0, level20_m: 3.4 },
  },
  radar: { family: 'level-from-above', values: RADAR },
  rod: { family: 'guided-wave', values: GUIDED },
  table: { family: 'guided-wave', values: { ...GUIDED, shape: 'table', strapping } },
  coax: { family: 'guided-wave', values: { ...GUIDED, probe: 'coax', eps: 1.9, bottomDead_m: 0.1 } },
  open: {
    family: 'pressure',
    values: {
      duty: 'open', zero_m: 0.5, full_m: 4.5, lowerTap_m: 0.3, transmitter_m: 0, density: 1000, densityNow: 1000,
      lineFill: 1000, url_kPa: 100, shape: 'none',
    },
  },
  wet: {
    family: 'pressure',
    values: {
      duty: 'wet', zero_m: 0.5, full_m: 2.5, lowerTap_m: 0.3, upperTap_m: 3, transmitter_m: -0.5, density: 900,
      densityNow: 900, lineFill: 1000, fill: 1000, url_kPa: 60, shape: 'none',
    },
  },
} // prettier-ignore

judgeMistakes(BASES, [
  // Ultrasonic.
  ['millimetres for metres, empty', 'ultrasonic', { empty_m: 4000 }, /possible is/],
  ['centimetres for metres, full', 'ultrasonic', { full_m: 60 }, /above|empty|nearer|full/i],
  ['empty and full exchanged', 'ultrasonic', { empty_m: 0.6, full_m: 4 }, /full|empty|exchang/i],
  ['100 % inside the dead zone', 'ultrasonic', { full_m: 0.2 }, /dead zone/i],
  ['a dead zone in millimetres', 'ultrasonic', { blocking_m: 300 }, /possible is/],
  ['100 % too near the dead zone', 'ultrasonic', { full_m: 0.32 }, /foam|dead zone/i],
  ['the tank’s height as the empty distance, and the face above it', 'ultrasonic', { empty_m: 4.6 }, /high|beyond the bottom/i],
  ['the empty point beyond the bottom', 'ultrasonic', { empty_m: 5.2 }, /beyond the bottom/i],
  ['a diameter in centimetres', 'ultrasonic', { diameter_m: 300 }, /possible is/],
  ['hot gas, counted cold', 'ultrasonic', { gas_C: 60 }, /sound|°C/],
  ['the sensor’s height left out: negative', 'ultrasonic', { offset_m: -9 }, /possible is/],
  ['an echo inside the dead zone', 'ultrasonic', { face_m: 0.2 }, /dead zone/i],
  ['the last value held when the echo is lost', 'ultrasonic', { lostEcho: 'hold' }, /unseen/i],
  ['level and distance points exchanged', 'distance', { at4_m: 0.6, at20_m: 4 }, /revers|exchang|4 mA/i],
  ['both points alike', 'distance', { at20_m: 4 }, /no span|same|alike|apart/i],
  ['a 20 mA point in the dead zone', 'distance', { at20_m: 0.2 }, /dead zone/i],
  ['a 4 mA point below the bottom', 'distance', { at4_m: 6 }, /bottom|empty|below/i],
  ['level points turned round', 'ownLevel', { level4_m: 3.4, level20_m: 0 }, /revers|turn|exchang|4 mA/i],
  ['level points in centimetres', 'ownLevel', { level20_m: 340 }, /possible is/],
  ['a level point above the tank', 'ownLevel', { level20_m: 4.2 }, /dead zone|above|tank/i],
  ['distance for level', 'ultrasonic', { compared: 'yes', known: 1.2, reads: 2.8 }, /distance is shown/i],
  ['percent at the receiver', 'ultrasonic', { compared: 'yes', known: 1.2, reads: 35.3 }, /percent/i],
  ['centimetres at the receiver', 'ultrasonic', { compared: 'yes', known: 1.2, reads: 120 }, /cm/],
  ['the receiver turned round, level', 'ultrasonic', { compared: 'yes', known: 0.9, reads: 2.5 }, /exchanged/i],
  ['a double echo', 'ultrasonic', { compared: 'yes', known: 3, reads: 2 }, /double echo/i],
  // Radar.
  ['a permittivity below what reflects', 'radar', { eps: 1.3 }, /permittivity|echo/i],
  ['a ladder in the beam', 'radar', { lateral_m: 0.3 }, /beam/i],
  ['a small antenna at low frequency', 'radar', { principle: 'radar6' }, /beam/i],
  ['an antenna in millimetres', 'radar', { antenna_m: 80 }, /possible is/],
  ['the silo shorter than the range', 'radar', { shell_m: 9 }, /high|bottom/i],
  ['radar full point in its dead zone', 'radar', { full_m: 0.1 }, /dead zone/i],
  // Guided wave.
  ['a probe in centimetres', 'rod', { probe_m: 260 }, /possible is/],
  ['a probe that was cut and not entered', 'rod', { probe_m: 2.2 }, /dead zone|beyond|below/i],
  ['a probe longer than the tank', 'rod', { probe_m: 3.4 }, /bottom/i],
  ['100 % in the upper dead zone', 'rod', { level20_m: 2.6 }, /upper dead zone/i],
  ['0 % below the lower dead zone', 'rod', { level4_m: 0 }, /below the measurable|freezes/i],
  ['0 % beyond the probe', 'rod', { level4_m: -0.2 }, /beyond the probe/i],
  ['the points turned round', 'rod', { level4_m: 2.5, level20_m: 0.2 }, /not above/i],
  ['a dead zone in decimetres', 'rod', { topDead_m: 1.5 }, /dead zone/i],
  ['a dead zone left at nothing', 'rod', { topDead_m: 0 }, /usually|dead zone/i],
  ['a cable’s weight forgotten', 'rod', { probe: 'cable' }, /weight|usually/i],
  ['a rod in a product that hardly reflects', 'rod', { eps: 1.6 }, /coax|permittivit/i],
  ['100 % in the standpipe', 'rod', { standpipe_m: 0.5 }, /standpipe/i],
  ['an end of the probe that fits no level', 'coax', { apparentEnd_m: 9 }, /fits no level/i],
  ['a digit in the strapping table', 'table', { strapping: strapping.map(([h, v], i) => [h, i === 6 ? v + 0.8 : v] as const) }, /Row 7/],
  ['a strapping table that falls', 'table', { strapping: [[0, 0], [1, 3], [2, 2]] }, /falls/i],
  ['no rows in the table', 'table', { strapping: [] }, /strapping table/i],
  ['the probe’s end for the surface', 'rod', { compared: 'yes', known: 1.4, reads: 0.1 }, /end of the probe/i],
  ['the nozzle for the surface', 'rod', { compared: 'yes', known: 1.4, reads: 2.55 }, /nozzle/i],
  ['something nobody knows, level', 'rod', { compared: 'yes', known: 1.4, reads: 1.65 }, /None of the usual/i],
  // Hydrostatic.
  ['kilograms per litre', 'open', { density: 1.0, densityNow: 1000 }, /density|kg\/L|too (high|low)/i],
  ['another density than was set', 'open', { densityNow: 1180 }, /too high/i],
  ['tap and 0 % exchanged in height', 'open', { zero_m: 4.5, full_m: 0.5 }, /revers|below|above|exchang|lower/i],
  ['a range above the cell', 'open', { full_m: 14 }, /limit|cell/i],
  ['the taps exchanged', 'wet', { lowerTap_m: 3, upperTap_m: 0.3 }, /tap/i],
  ['a leg that was never filled', 'wet', { fill: 0 }, /fill|leg/i],
  ['metres above the sea for metres above the tap', 'open', { transmitter_m: 95 }, /above|limit|cell|transmitter/i],
]) // prettier-ignore
