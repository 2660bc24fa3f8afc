import { judgeMistakes } from './test/judge-mistakes.ts'
import { thermocouple_mV, withColdJunction, type Thermocouple } from './temperature/thermocouple.ts'

const PT = {
  sensor: 'pt100',
  low_C: 0,
  high_C: 150,
  rtdClass: 'A',
  build: 'film',
  wires: '3',
  lead1_ohm: 0.4,
  lead2_ohm: 0.4,
}
const K = { sensor: 'K', low_C: 0, high_C: 450, grade: '1', cold_C: 25 }
const S = { sensor: 'S', low_C: 0, high_C: 1200, grade: '1', cold_C: 30 }
const WELL = { ...PT, mounting: 'well', immersion_mm: 150, well_mm: 12, sensitive_mm: 15 }
const PIPE = {
  ...PT,
  high_C: 60,
  mounting: 'pipe',
  od_mm: 114.3,
  wall_mm: 6,
  inside: 'water',
  insulation_mm: 50,
  ambient_C: 20,
}
const BASES = {
  pt: { family: 'temperature', values: PT },
  pt4: { family: 'temperature', values: { ...PT, wires: '4' } },
  k: { family: 'temperature', values: K },
  s: { family: 'temperature', values: S },
  well: { family: 'temperature', values: WELL },
  pipe: { family: 'temperature', values: PIPE },
  readPt: { family: 'temperature', values: { ...PT, compared: 'yes', known: 80, reads: 80.3 } },
  readK: { family: 'temperature', values: { ...K, compared: 'yes', known: 300, reads: 301 } },
  readS: { family: 'temperature', values: { ...S, compared: 'yes', known: 900, reads: 902 } },
} // prettier-ignore

// What a loop would really read, by the standards' tables.
const as = (mV: number, type: Thermocouple, cold = 25) => withColdJunction(type, mV, cold)?.t_C ?? NaN
const k = thermocouple_mV
const mv = (type: Thermocouple, t: number, cold = 25) => (k(type, t) ?? NaN) - (k(type, cold) ?? NaN)

judgeMistakes(BASES, [
  // At the entry.
  ['Fahrenheit typed as Celsius, beyond the sensor', 'pt', { high_C: 900 }, /outside what this sensor/i],
  ['Fahrenheit typed as Celsius, beyond the class', 'pt', { high_C: 302 }, /promises nothing/i],
  ['no span', 'pt', { high_C: 0 }, /no span/i],
  ['a class that ends before the range', 'pt', { rtdClass: 'AA', high_C: 250 }, /promises nothing/i],
  ['a film element for a wire-wound one', 'pt', { rtdClass: 'A', high_C: 400 }, /promises nothing/i],
  ['two wires over long leads', 'pt', { wires: '2', lead1_ohm: 1.2, lead2_ohm: 1.2 }, /leads/i],
  ['unequal leads on three wires', 'pt', { lead1_ohm: 0.4, lead2_ohm: 1.4 }, /leads/i],
  ['leads in milliohm', 'pt', { lead1_ohm: 400, lead2_ohm: 300 }, /leads/i],
  ['kelvin for Celsius', 'pt', { low_C: 273.15, high_C: 873.15 }, /outside what this sensor/i],
  ['below absolute zero', 'pt', { low_C: -300 }, /possible is/],
  ['an open circuit', 'pt', { read_ohm: 9000 }, /open circuit/i],
  ['a Pt1000 read as a Pt100', 'pt', { read_ohm: 1155 }, /other R0/i],
  ['a short', 'pt', { read_ohm: 2 }, /short/i],
  ['a range beyond the couple', 'k', { high_C: 1600 }, /outside what this sensor/i],
  ['leads reversed, at the voltage', 'k', { read_mV: -12 }, /reversed/i],
  ['volts for millivolts', 'k', { read_mV: 99 }, /not a temperature|possible/i],
  ['a cold junction in °F', 'k', { cold_C: 120 }, /possible is/],
  ['a millivolt of a larger couple', 's', { read_mV: 41 }, /not a temperature/i],
  ['a sensor not deep enough', 'well', { immersion_mm: 60 }, /immersion|wanted/i],
  ['immersion in centimetres', 'well', { immersion_mm: 15 }, /wanted/i],
  ['a thick well', 'well', { well_mm: 40 }, /wanted/i],
  ['clamped on a gas line', 'pipe', { inside: 'gas' }, /gas line/i],
  ['insulation forgotten', 'pipe', { insulation_mm: 0 }, /insulate/i],
  ['a wall that leaves no bore', 'pipe', { wall_mm: 60 }, /no bore/i],
  ['damping in milliseconds', 'pt', { damping_s: 500 }, /possible is/],
  // At the first reading.
  ['the receiver in °F', 'readPt', { reads: 176 }, /°F/],
  ['a range in °F typed as °C', 'readPt', { reads: 26.7 }, /°F/],
  ['the receiver in kelvin', 'readPt', { reads: 353.2 }, /kelvin/i],
  ['leads of a two-wire connection', 'readPt', { reads: 82.1 }, /two-wire/i],
  ['an input set to Pt1000, at its end', 'readPt', { reads: -30 }, /another R0/i],
  ['an open lead', 'readPt', { reads: 164 }, /open lead/i],
  ['a curve of another standard', 'readPt', { known: 140, reads: 140 * (0.003851 / 0.003916) }, /another standard/i],
  ['the receiver turned round, temperature', 'readPt', { known: 40, reads: 110 }, /exchanged/i],
  ['0 to 20 mA at the receiver, temperature', 'readPt', { known: 75, reads: 90 }, /0 to 20 mA/i],
  ['plus and minus exchanged', 'readK', { known: 100, reads: as(-mv('K', 100), 'K') }, /plus and minus/i],
  ['no cold junction', 'readK', { reads: as(mv('K', 300), 'K', 0) }, /cold junction/i],
  ['the input set to type J', 'readK', { reads: as(mv('K', 300), 'J') }, /set to type J/i],
  ['the input set to type T', 'readK', { known: 250, reads: as(mv('K', 250), 'T') }, /set to type T/i],
  ['a type J couple entered as K', 'readK', { reads: as(mv('J', 300), 'K') }, /type J/i],
  ['a type N couple entered as K', 'readK', { reads: as(mv('N', 300), 'K') }, /type N/i],
  ['a type E couple entered as K', 'readK', { known: 250, reads: as(mv('E', 250), 'K') }, /type E/i],
  ['the input set to type R, nearly alike', 'readS', { reads: as(mv('S', 900, 30), 'R', 30) }, /type R/i],
  ['copper for extension wire', 'readK', { reads: as(mv('K', 300) - mv('K', 35), 'K') }, /extension wire/i],
  ['something nobody knows, temperature', 'readPt', { reads: 61 }, /None of the usual/i],
]) // prettier-ignore
