import type { SheetLine } from '../family/family.ts'

/** Orders of a plant, by the kind of meter, and by the name of a device where the plant has several of a kind. */
export type SheetOrders = Readonly<Record<string, readonly string[]>>

/** Under which name an order is kept. @param device - as the plant calls it; empty where all of a kind ask alike */
export const orderName = (family: string, device: string): string =>
  device.trim() === '' ? family : `${family}/${device.trim()}`

/** The order in which this device asks: its own, else that of its kind. */
export const orderOf = (orders: SheetOrders, family: string, device: string): readonly string[] =>
  orders[orderName(family, device)] ?? orders[family] ?? []

/** The devices of a kind that have an order of their own, by their names. */
export const orderedDevices = (orders: SheetOrders, family: string): string[] =>
  Object.keys(orders)
    .flatMap((name) => (name.startsWith(`${family}/`) ? [name.slice(family.length + 1)] : []))
    .sort((a, b) => a.localeCompare(b))

/**
 * The lines in the order in which a device asks for them, as somebody put them once. A line that was not there then
 * stands behind the one that it follows by itself.
 * @param order - what each line says, in that order; empty where nobody changed it
 */
export function inOrder(lines: readonly SheetLine[], order: readonly string[]): readonly SheetLine[] {
  const known = new Set(order)
  const out = order.flatMap((says) => lines.find((l) => l.says === says) ?? [])
  lines.forEach((line, i) => {
    if (known.has(line.says)) return
    const before = lines[i - 1]
    out.splice(before ? out.indexOf(before) + 1 : 0, 0, line)
  })
  return out
}

/** One line moved to another place; the order that it makes. */
export function moved(lines: readonly SheetLine[], from: number, to: number): string[] {
  const order = lines.map((l) => l.says)
  const [line] = order.splice(from, 1)
  if (line !== undefined) order.splice(Math.max(0, Math.min(order.length, to)), 0, line)
  return order
}
