/** A number of its own for every loop and sensor, the same after every restart. */
export function seedOf(id: string): number {
  return Number.parseInt(id.replaceAll('-', '').slice(0, 8), 16) % 1_000_000
}
