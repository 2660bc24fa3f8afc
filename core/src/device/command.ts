import type { DeviceSettings } from './stand-in.ts'
import type { Keyed } from './keyed.ts'
import type { MeterId } from './tools/meter.ts'
import type { Adjustment } from '../trim/adjust.ts'

/** What a device, its link or its tools can be told. */
export type DeviceCommand =
  | { readonly kind: 'connect'; readonly port: string }
  | { readonly kind: 'disconnect' }
  | { readonly kind: 'unlock'; readonly passcode: string }
  | { readonly kind: 'lock' }
  /** `over_s` makes a ramp of it. */
  | { readonly kind: 'apply'; readonly value: number | null; readonly over_s?: number | undefined }
  | { readonly kind: 'adjust'; readonly adjustment: Adjustment }
  | { readonly kind: 'write'; readonly settings: Partial<DeviceSettings> }
  /** Lines keyed in at its menus: in use at once, and gone with the supply until they are stored. */
  | { readonly kind: 'keyIn'; readonly lines: Keyed }
  | { readonly kind: 'applySettings' }
  | { readonly kind: 'store' }
  | { readonly kind: 'markAsFound' }
  | { readonly kind: 'revert' }
  | { readonly kind: 'power'; readonly on: boolean }
  | { readonly kind: 'readAll' }
  | { readonly kind: 'healthCheck'; readonly output: 'held' | 'alarm' }
  /** A clamped sensor is moved so far from where the sheet has it; it has to be started again. */
  | { readonly kind: 'place'; readonly off_mm: number }
  | { readonly kind: 'start' }
  /** What it remembers of its readings is fetched; without figures an unfinished download goes on. */
  | { readonly kind: 'history'; readonly every_s: number; readonly hours: number }
  | { readonly kind: 'resume' }
  | { readonly kind: 'resetTotal'; readonly which: 1 | 2 }
  /** A calibrator gives a current in the transmitter’s place; null: the transmitter is back in the loop. */
  | { readonly kind: 'source'; readonly mA: number | null }
  | { readonly kind: 'cancel' }
  | { readonly kind: 'replug'; readonly port: string }
  | { readonly kind: 'loopResistance'; readonly ohm: number }
  | { readonly kind: 'meter'; readonly meter: MeterId }

/** What a device does only for who has told it its passcode: whatever changes it. */
const NEEDS_PASSCODE: ReadonlySet<DeviceCommand['kind']> = new Set<DeviceCommand['kind']>([
  'lock',
  'write',
  'keyIn',
  'applySettings',
  'store',
  'revert',
  'start',
  'resetTotal',
  'healthCheck',
  'adjust',
])
export const needsPasscode = ({ kind }: DeviceCommand): boolean => NEEDS_PASSCODE.has(kind)
