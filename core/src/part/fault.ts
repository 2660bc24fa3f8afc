/** A fault put in on the bench; it is never saved with the loop. */
export type Fault =
  | { readonly kind: 'open'; readonly wire: string }
  | { readonly kind: 'loose'; readonly wire: string; readonly ohm: number }
  | {
      readonly kind: 'doubleSupply'
      readonly wire: string
      /** Below zero against the wire's direction. */ readonly volts: number
    }
  | { readonly kind: 'short'; readonly part: string }
  | { readonly kind: 'reversed'; readonly part: string }
  | { readonly kind: 'leakage'; readonly part: string; readonly ohm: number }
  | { readonly kind: 'noSupply'; readonly part: string }
  | { readonly kind: 'earth'; readonly at: string; readonly ohm: number; readonly volts: number }

export type FaultKind = Fault['kind']

/** Faults with what they do to, in the words of the menu. */
export const WIRE_FAULTS: readonly { readonly title: string; readonly make: (wire: string) => Fault }[] = [
  { title: 'Wire broken', make: (wire) => ({ kind: 'open', wire }) },
  { title: 'Loose terminal, 400 Ω', make: (wire) => ({ kind: 'loose', wire, ohm: 400 }) },
  { title: 'A second 24 V in this wire', make: (wire) => ({ kind: 'doubleSupply', wire, volts: 24 }) },
]
export const PART_FAULTS: readonly { readonly title: string; readonly make: (part: string) => Fault }[] = [
  { title: 'Leads swapped', make: (part) => ({ kind: 'reversed', part }) },
  { title: 'Shorted across', make: (part) => ({ kind: 'short', part }) },
  { title: 'Wet, 5 kΩ across', make: (part) => ({ kind: 'leakage', part, ohm: 5000 }) },
]
export const SOURCE_FAULT = {
  title: 'No supply',
  make: (part: string): Fault => ({ kind: 'noSupply', part }),
}
export const TERMINAL_FAULT = {
  title: 'Second ground, 0.6 V off, 2 Ω',
  make: (at: string): Fault => ({ kind: 'earth', at, ohm: 2, volts: 0.6 }),
}

/** A fault in one line. */
export function sayFault(f: Fault): string {
  switch (f.kind) {
    case 'open':
      return `wire ${f.wire} broken`
    case 'loose':
      return `wire ${f.wire} loose, ${f.ohm} Ω`
    case 'doubleSupply':
      return `a second ${Math.abs(f.volts)} V in wire ${f.wire}`
    case 'short':
      return `${f.part} shorted`
    case 'reversed':
      return `${f.part} leads swapped`
    case 'leakage':
      return `${f.part} wet, ${f.ohm} Ω across`
    case 'noSupply':
      return `${f.part} gives nothing`
    case 'earth':
      return `${f.at.replace(':', ' ')} on a second ground`
  }
}
