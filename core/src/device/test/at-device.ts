import { transmitter } from '../../transmitter/transmitter.ts'
import type { DeviceCommand } from '../command.ts'
import { command, PASSCODE } from '../commands.ts'
import { standIn, type StandIn } from '../stand-in.ts'

let n = 0
const id = () => `at-device-${String(n++)}`
/** A device whose reading is right to the last digit, with a range in its unit. */
export const exact = (high: number, unit: string, more: Partial<StandIn> = {}): StandIn =>
  standIn(20317, transmitter({ LSL: -0.2 * high, USL: 2 * high }, {}, 0, high), {
    unit,
    noise: 0,
    ...more,
  })
/** Does one after the other. @throws Error with the device’s words where it refuses */
export function go(d: StandIn, t_s: number, ...commands: DeviceCommand[]): StandIn {
  return commands.reduce((x, c) => {
    const { device, answer } = command(x, t_s, c, id())
    if (!answer.ok) throw new Error(answer.says)
    return device
  }, d)
}
/** What it says when it refuses; null when it does not. */
export function refused(d: StandIn, t_s: number, c: DeviceCommand): string | null {
  const { answer } = command(d, t_s, c, id())
  return answer.ok ? null : answer.says
}
export const OPEN: readonly DeviceCommand[] = [
  { kind: 'connect', port: 'A' },
  { kind: 'unlock', passcode: PASSCODE },
]
