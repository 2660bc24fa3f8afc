import { STATION_NAMES } from '../signal/station-names.ts'

/** What technicians call the fields of a loop. */
const NAMES: Readonly<Record<string, string>> = {
  tag: 'Tag',
  family: 'Kind of meter, with its set-up',
  service: 'Service',
  area: 'Area',
  floor: 'Floor',
  assignee: 'Assigned to',
  type: 'Type',
  signal: 'Signal',
  remark: 'Remark',
  interval_months: 'Interval, months',
  lastCalibrated: 'Last calibrated',
  tolerance: 'Tolerance',
  'tolerance.mode': 'Tolerance, how the parts combine',
  'tolerance.pctSpan': 'Tolerance, % of span',
  'tolerance.pctReading': 'Tolerance, % of reading',
  'tolerance.abs': 'Tolerance, absolute',
  'path.transmitter.range.low': 'Transmitter, 4 mA point (LRV)',
  'path.transmitter.range.high': 'Transmitter, 20 mA point (URV)',
  'path.transmitter.range.unit': 'Transmitter, unit',
  'path.transmitter.shows.low': 'Transmitter shows at 0 %',
  'path.transmitter.shows.high': 'Transmitter shows at 100 %',
  'path.transmitter.shows.unit': 'Transmitter shows, unit',
  'path.transmitter.transfer.kind': 'Transmitter, transfer function',
  'path.transmitter.transfer.cutoff': 'Transmitter, low cutoff',
  'path.transmitter.transfer.points': 'Transmitter, table',
  'path.transmitter.reverse': 'Transmitter, reverse action',
  'path.sensor.limits.low': 'Sensor, lowest it measures',
  'path.sensor.limits.high': 'Sensor, highest it measures',
  'path.frequency.frequency_Hz': 'Frequency, Hz',
  'path.frequency.atRate': 'Frequency, at a flow of',
  'path.frequency.limit_Hz': 'Frequency, limit of the output, Hz',
  'path.frequency.width_ms': 'Frequency, pulse width, ms',
  'path.totalizer.unitsPerPulse': 'Totalizer, units per pulse',
  'path.totalizer.limit_Hz': 'Totalizer, limit, Hz',
  'path.isolator.inLow_mA': 'Isolator, takes from, mA',
  'path.isolator.inHigh_mA': 'Isolator, takes to, mA',
  'path.isolator.outLow_mA': 'Isolator, gives from, mA',
  'path.isolator.outHigh_mA': 'Isolator, gives to, mA',
  'path.converter.range.low': 'Converter at 4 mA',
  'path.converter.range.high': 'Converter at 20 mA',
  'path.converter.range.unit': 'Converter, unit',
  'path.converter.channel': 'Converter, channel',
  'path.converter.decimals': 'Converter, decimals',
  'path.input.volts20': 'Input card, volts at 20 mA',
  'path.controller.m4': 'Scaling block, code at 4 mA',
  'path.controller.m20': 'Scaling block, code at 20 mA',
  trips: 'Relays',
  toKeyIn: 'To be keyed in again',
  'path.output.signal': 'Output signal',
  'path.output.satLow_mA': 'Output, lowest measuring current, mA',
  'path.output.satHigh_mA': 'Output, highest measuring current, mA',
  'path.output.failTo': 'Output on failure',
  'path.shunt.resistance_ohm': 'Shunt, Ω',
  'path.input.signal': 'Input card signal',
  'path.input.n4': 'Input card, code at 4 mA',
  'path.input.n20': 'Input card, code at 20 mA',
  'path.input.nmin': 'Input card, lowest code',
  'path.input.nmax': 'Input card, highest code',
  'path.controller.range.low': 'Controller at 0 %',
  'path.controller.range.high': 'Controller at 100 %',
  'path.controller.range.unit': 'Controller, unit',
  'path.controller.transfer.kind': 'Controller, transfer function',
  'path.controller.transfer.cutoff': 'Controller, low cutoff',
  'path.controller.transfer.points': 'Controller, table',
  'path.display.range.low': 'Display at 0 %',
  'path.display.range.high': 'Display at 100 %',
  'path.display.range.unit': 'Display, unit',
  'path.display.decimals': 'Display, decimals',
  'path.display.from': 'Display takes its signal from',
  'path.display.transfer.kind': 'Display, transfer function',
  'path.display.transfer.cutoff': 'Display, low cutoff',
  'path.display.transfer.points': 'Display, table',
  // A station itself: it comes and goes with all that it holds.
  ...Object.fromEntries(Object.entries(STATION_NAMES).map(([kind, name]) => [`path.${kind}.kind`, name])),
}

/** A part or a wire by its name; what of it is told by the wiring itself. */
function ofWiring(path: string): string | null {
  const [root, list, name] = path.split('.')
  if (root !== 'wiring') return null
  return name === undefined || (list !== 'parts' && list !== 'wires')
    ? list === 'school'
      ? 'School of colours'
      : 'Wiring'
    : `${list === 'parts' ? 'Part' : 'Wire'} ${name}`
}

/** The name of a field for people; an unnamed one is read out of its path. */
export const fieldName = (path: string): string =>
  NAMES[path] ??
  ofWiring(path) ??
  path
    .replace(/^setUp\.values\./, 'Set-up, ')
    .replace(/^path\./, '')
    .replace(/[._]/g, ' ')
