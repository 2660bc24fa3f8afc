import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { SheetLine } from '../family.ts'
import { massIn } from './in-units.ts'
import { SOURCES, TOTALS, type Entries } from './settings.ts'

/** Frequency at full flow, however the output was told, Hz. */
export function frequency_Hz(s: Entries): number {
  switch (s.pulseBy) {
    case 'pulses':
      return (s.pulses_kg * s.flow_kgh) / 3600
    case 'units':
      return s.flow_kgh / 3600 / s.kg_pulse
    case 'frequency':
      return s.pulse_Hz
  }
}
const FREQUENCY_ENTRY = { pulses: 'pulses_kg', units: 'kg_pulse', frequency: 'pulse_Hz' } as const
export const frequencyEntry = (s: Entries): string => FREQUENCY_ENTRY[s.pulseBy]

const UNIT: Readonly<Record<Entries['source'], string>> = {
  mass: 'kg/h',
  volume: 'm³/h',
  density: 'kg/m³',
  temperature: '°C',
}
/** Value at 4 and at 20 mA. */
const ends = (s: Entries) =>
  s.source === 'mass' ? { low: 0, high: s.flow_kgh } : { low: s.out_low, high: s.out_high }

/** An end of the current output in the unit that the device was set to. */
const sayEnd = (s: Entries, x: number): string =>
  s.source === 'mass' ? massIn(s, x) : `${sayNumber(x)} ${UNIT[s.source]}`

/** What of the outputs cannot be meant. @param hasPath - the loop reads a current */
export function outputFindings(s: Entries, hasPath: boolean): Finding[] {
  const { low, high } = ends(s)
  return [
    ...(hasPath && s.source !== 'mass'
      ? [
          {
            code: 'OTHER_SOURCE',
            severity: 'note' as const,
            where: ['source'],
            says: `The current output carries the ${SOURCES[s.source]}: the loop’s range is in ${UNIT[s.source]} then, not in kg/h.`,
          },
        ]
      : []),
    ...(low === high
      ? [
          {
            code: 'NO_SPAN',
            severity: 'stop' as const,
            where: ['out_high'],
            says: 'The current output has the same value at 4 and at 20 mA.',
          },
        ]
      : []),
    ...(hasPath && s.currentOn === 'off'
      ? [
          {
            code: 'CURRENT_OFF',
            severity: 'stop' as const,
            where: ['currentOn'],
            says: 'The current output is off, and this loop reads a current.',
          },
        ]
      : []),
    ...(s.fault === 'hold'
      ? [
          {
            code: 'FAULT_HELD',
            severity: 'warn' as const,
            where: ['fault'],
            says: 'On a fault the output holds its last value: nobody sees that the meter has stopped.',
          },
        ]
      : []),
    ...(s.direction === 'forward' && (s.total1 === 'reverse' || s.total2 === 'reverse')
      ? [
          {
            code: 'TOTAL_NEVER',
            severity: 'warn' as const,
            where: [s.total1 === 'reverse' ? 'total1' : 'total2'],
            says: 'A totalizer counts reverse flow and the meter measures forward only: it stays at 0.',
          },
        ]
      : []),
  ]
}

/** Units, outputs, totals and display, in the order in which they are keyed in. */
export function outputLines(s: Entries): SheetLine[] {
  const { low, high } = ends(s)
  const part = (name: string, lines: readonly SheetLine[]) => lines.map((l) => ({ ...l, part: name }))
  const told = {
    frequency: { says: 'Frequency at full flow', value: `${sayNumber(s.pulse_Hz)} Hz` },
    pulses: { says: 'Pulses per kg', value: sayNumber(s.pulses_kg, 8) },
    units: { says: 'Units per pulse', value: `${sayNumber(s.kg_pulse, 8)} kg` },
  }[s.pulseBy]
  return [
    ...part('Current output', [
      { says: 'Current output carries', value: SOURCES[s.source] },
      { says: 'Value at 4 mA', value: sayEnd(s, low) },
      {
        says: s.source === 'mass' ? 'Flow at 20 mA' : 'Value at 20 mA',
        value: sayEnd(s, high),
      },
      { says: 'On a fault', value: { down: 'down', up: 'up', hold: 'holds the last value' }[s.fault] },
    ]),
    ...part('Frequency output', [told, { says: 'Pulse width', value: `${sayNumber(s.pulse_ms)} ms` }]),
    ...part('Totals and display', [
      { says: 'Totalizer 1', value: TOTALS[s.total1] },
      { says: 'Totalizer 2', value: TOTALS[s.total2] },
      {
        says: 'Backlight',
        value: s.backlight ? 'on' : 'off',
        ...(s.backlight ? { trap: 'takes about 1 V more of the loop where the loop feeds the display' } : {}),
      },
      ...(s.language.trim() === '' ? [] : [{ says: 'Language', value: s.language.trim() }]),
      { says: 'Display turned by', value: `${s.rotation}°` },
    ]),
  ]
}
