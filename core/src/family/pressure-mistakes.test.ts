import { judgeMistakes } from './test/judge-mistakes.ts'

const GAUGE = { duty: 'gauge', lrv_kPa: 0, urv_kPa: 600, url_kPa: 1000, below_m: 0, lineDensity: 0 }
const COLUMN = { ...GAUGE, below_m: 5, lineDensity: 1000 }
const ABSOLUTE = { ...GAUGE, duty: 'absolute', lrv_kPa: 0, urv_kPa: 200, url_kPa: 400 }
const DIFFERENTIAL = {
  duty: 'differential',
  lrv_kPa: 0,
  urv_kPa: 40,
  url_kPa: 60,
  line_kPa: 0,
  manifold: 'none',
}
const MANIFOLD = {
  ...DIFFERENTIAL,
  manifold: 'three-valve',
  sequence: 'close L; open E; close H; open VH; open VL',
}
const SEALS = {
  duty: 'seals', zero_m: 0.5, full_m: 2.5, lowerTap_m: 0.3, upperTap_m: 3, transmitter_m: 0, density: 900,
  densityNow: 900, fill: 960, url_kPa: 60, shape: 'none',
} // prettier-ignore
const INTERFACE = {
  duty: 'interface', zero_m: 0.5, full_m: 2.5, lowerTap_m: 0.3, upperTap_m: 3, transmitter_m: 0, density: 1000,
  upperDensity: 850, fill: 960, url_kPa: 25,
} // prettier-ignore
const read = (known: number, reads: number) => ({ compared: 'yes', known, reads })
const BASES = {
  gauge: { family: 'pressure', values: GAUGE },
  column: { family: 'pressure', values: { ...COLUMN, ...read(300, 300.8) } },
  absolute: { family: 'pressure', values: ABSOLUTE },
  dp: { family: 'pressure', values: DIFFERENTIAL },
  manifold: { family: 'pressure', values: MANIFOLD },
  seals: { family: 'pressure', values: SEALS },
  interface: { family: 'pressure', values: INTERFACE },
  read: { family: 'pressure', values: { ...GAUGE, ...read(300, 301) } },
  readAbsolute: { family: 'pressure', values: { ...ABSOLUTE, ...read(120, 119.6) } },
  readDp: { family: 'pressure', values: { ...DIFFERENTIAL, ...read(20, 20.1) } },
}

judgeMistakes(BASES, [
  // At the entry.
  ['no span', 'gauge', { urv_kPa: 0 }, /no span/i],
  ['bar typed as kPa, on a cell in kPa', 'gauge', { urv_kPa: 6 }, /turndown/i],
  ['pascal for kilopascal', 'gauge', { urv_kPa: 600_000 }, /cell ends/i],
  ['a range above the cell', 'gauge', { urv_kPa: 1400 }, /cell ends/i],
  ['a vacuum below nothing', 'gauge', { lrv_kPa: -150 }, /vacuum/i],
  ['an absolute range below nothing', 'absolute', { lrv_kPa: -50 }, /absolute|gauge/i],
  ['a cell much too large', 'gauge', { url_kPa: 60_000 }, /turndown/i],
  ['a cell in bar', 'gauge', { url_kPa: 10 }, /cell ends/i],
  ['millimetres for metres of column', 'column', { below_m: 5000 }, /possible is/],
  ['density in g/cm³', 'seals', { density: 0.9 }, /possible is/],
  ['two conventions of water', 'dp', { columnTx: 'conv', columnCal: '20C' }, /span error/i],
  ['three valves in the wrong order', 'manifold', { sequence: 'open VH; close L; open E; close H; open VL' }, /vent|order|first|open/i],
  ['equalising valve forgotten', 'manifold', { sequence: 'close L; close H; open VH; open VL' }, /equali|E\b|one side/i],
  ['low side vented alone', 'manifold', { sequence: 'close L; open VL' }, /./],
  ['taps exchanged', 'seals', { lowerTap_m: 3, upperTap_m: 0.3 }, /tap/i],
  ['0 and 100 % exchanged', 'seals', { zero_m: 2.5, full_m: 0.5 }, /not above/i],
  ['levels in centimetres', 'seals', { full_m: 250 }, /possible is|cell ends/],
  ['liquids exchanged', 'interface', { density: 850, upperDensity: 1000 }, /lighter/i],
  ['the same liquid twice', 'interface', { upperDensity: 1000 }, /lighter/i],
  ['a span of hardly anything between two liquids', 'interface', { upperDensity: 985 }, /turndown/i],
  ['line pressure on a small span', 'dp', { line_kPa: 30_000, urv_kPa: 6 }, /line pressure/i],
  ['gravity in feet', 'seals', { gravity: 32.2 }, /possible is/],
  ['a leg that was never filled, on its own', 'seals', { duty: 'wet', fill: 1 }, /leg|fill/i],
  ['damping in milliseconds', 'gauge', { damping_s: 500 }, /possible is/],
  // At the first reading.
  ['absolute for gauge', 'read', { reads: 401.3 }, /absolute pressure for a gauge/i],
  ['gauge for absolute', 'readAbsolute', { reads: 18.7 }, /gauge pressure for an absolute/i],
  ['psi at the receiver', 'read', { reads: 43.5 }, /psi/],
  ['bar at the receiver', 'read', { reads: 3.0, known: 300 }, /bar/],
  ['mbar at the receiver', 'readDp', { reads: 200 }, /mbar/],
  ['kgf/cm² at the receiver', 'read', { known: 590, reads: 6.016 }, /kgf/],
  ['mmHg at the receiver', 'readDp', { reads: 150 }, /mmHg/],
  ['mmH₂O at the receiver', 'readDp', { reads: 2039 }, /mmH₂O/],
  ['inches of water at the receiver', 'readDp', { reads: 80.4 }, /inH₂O/],
  ['a range typed in psi', 'readDp', { known: 3, reads: 20.68 }, /psi/],
  ['high and low side exchanged', 'readDp', { reads: -20 }, /exchanged/i],
  ['a root that does not belong', 'read', { known: 150, reads: 300 }, /root/i],
  ['the receiver turned round', 'read', { known: 150, reads: 450 }, /exchanged/i],
  ['0 to 20 mA at the receiver', 'read', { known: 150, reads: 240 }, /0 to 20 mA and gets/i],
  ['0 to 20 mA from the transmitter', 'read', { known: 240, reads: 150 }, /gives 0 to 20/i],
  ['a column that is not there', 'column', { reads: 251 }, /not there/i],
  ['a column that is there twice', 'column', { reads: 349 }, /not counted/i],
  ['something nobody knows', 'read', { reads: 262 }, /None of the usual/i],
]) // prettier-ignore
