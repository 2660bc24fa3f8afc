/** A clock that is only this wrong is left alone, ms: answers take their time too. */
const RIGHT_ENOUGH_MS = 60_000

let ahead_ms = 0

/** Learns from an answer how far this device's clock is from the server's. */
export function hearServerTime(date: string | null, now = Date.now()): void {
  const server = date === null ? Number.NaN : Date.parse(date)
  if (!Number.isFinite(server)) return
  const off = now - server
  ahead_ms = Math.abs(off) > RIGHT_ENOUGH_MS ? off : 0
}

/** The time now as the plant has it: a tablet whose battery was empty may be in another year. */
export const plantTime = (): string => new Date(Date.now() - ahead_ms).toISOString()
