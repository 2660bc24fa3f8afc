export const TRIP_KINDS = [
  'near',
  'far',
  'inWindow',
  'outOfWindow',
  'hysteresisNear',
  'hysteresisFar',
] as const
export type TripKind = (typeof TRIP_KINDS)[number]

export interface TripSetting {
  readonly kind: TripKind
  /** Trip value, in the unit of what is measured. */
  readonly V: number
  /** Window or hysteresis, 0 or more. */
  readonly W: number
}

/**
 * State of a trip relay for one value. An edge counts as reached: 1.1 + 0.3 is not 1.4 in binary, the relay
 * must switch all the same.
 * @param before - state so far; inside a hold band it stays.
 */
export function tripState({ kind, V, W }: TripSetting, x: number, before: boolean): boolean {
  const eps = 1e-9 * (1 + Math.abs(V) + W)
  const atMost = (limit: number) => x <= limit + eps
  const atLeast = (limit: number) => x >= limit - eps
  switch (kind) {
    case 'near':
      return atMost(V)
    case 'far':
      return atLeast(V)
    case 'inWindow':
      return atLeast(V) && atMost(V + W)
    case 'outOfWindow':
      return !(atLeast(V) && atMost(V + W))
    case 'hysteresisNear':
      return atMost(V) ? true : atLeast(V + W) ? false : before
    case 'hysteresisFar':
      return atLeast(V + W) ? true : atMost(V) ? false : before
  }
}

/** A whole sequence of values; null is an invalid one (lost echo, failure current). */
export function tripSequence(
  setting: TripSetting,
  x: readonly (number | null)[],
  startUp: boolean,
  onInvalid: 'off' | 'on' | 'hold',
): boolean[] {
  let state = startUp
  return x.map((value) => {
    if (value !== null) state = tripState(setting, value, state)
    else if (onInvalid !== 'hold') state = onInvalid === 'on'
    return state
  })
}
