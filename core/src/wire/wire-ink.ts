import type { WireColour } from '../part/wiring.ts'

/** Insulation colours by their letters; two where the wire is striped. The same in every theme and on paper. */
export const WIRE_INK: Readonly<Record<WireColour, readonly [string, string?]>> = {
  BK: ['#26292B'],
  BN: ['#7B4A21'],
  RD: ['#B3261E'],
  OG: ['#D9751A'],
  YE: ['#E2C11E'],
  GN: ['#2F8F46'],
  BU: ['#2A6FB8'],
  VT: ['#7A4B9A'],
  GY: ['#8E9496'],
  WH: ['#FFFFFF'],
  PK: ['#E79AB0'],
  TQ: ['#2FA7A0'],
  GNYE: ['#2F8F46', '#E2C11E'],
  WHBU: ['#FFFFFF', '#2A6FB8'],
}
