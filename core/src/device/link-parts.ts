import type { StandIn } from './stand-in.ts'

/** Ports of the computer that an adaptor may be plugged into. */
export const PORTS = ['A', 'B', 'C'] as const

/** One part of the way to a device, in its order; null where nothing was asked of it because an earlier one is silent. */
export interface LinkPart {
  readonly part: string
  readonly answers: boolean | null
  readonly says: string
}
const LEAST_LINK_OHM = 230

/**
 * The way from a port to the device, part by part: which one does not answer first.
 * @param port - where somebody looks for it
 */
export function linkParts(d: StandIn, port: string): readonly LinkPart[] {
  const checks: readonly (readonly [part: string, answers: boolean, yes: string, no: string])[] = [
    [
      `Port ${port}`,
      port === d.port,
      'An adaptor is plugged in.',
      'Nothing is plugged in here. Plug the adaptor in and look which port is new.',
    ],
    [
      'Loop at the adaptor',
      d.loop_ohm >= LEAST_LINK_OHM,
      `${d.loop_ohm.toFixed(0)} Ω in the loop, ${LEAST_LINK_OHM} Ω or more are needed.`,
      `Only ${d.loop_ohm.toFixed(0)} Ω in the loop: below ${LEAST_LINK_OHM} Ω the tones are lost in the supply. Put a resistor in.`,
    ],
    ['Supply', d.powered, 'The loop has its supply.', 'The loop has no supply: nothing can answer.'],
    [
      'Device',
      d.sourced_mA === null,
      `It answers at address ${d.applied.address}.`,
      'The calibrator stands in the loop in its place.',
    ],
  ]
  const silent = checks.findIndex(([, answers]) => !answers)
  return checks.map(([part, answers, yes, no], i) =>
    silent >= 0 && i > silent
      ? { part, answers: null, says: 'Not asked: something before it is silent.' }
      : { part, answers, says: answers ? yes : no },
  )
}
/** The part at which the way to a device ends, seen from a port; null where it answers. */
export const silentPart = (d: StandIn, port: string): LinkPart | null =>
  linkParts(d, port).find((p) => p.answers === false) ?? null
