import type { DeviceSettings } from './stand-in.ts'
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
  | { readonly kind: 'applySettings' }
  | { readonly kind: 'store' }
  | { readonly kind: 'markAsFound' }
  | { readonly kind: 'revert' }
  | { readonly kind: 'power'; readonly on: boolean }
  | { readonly kind: 'readAll' }
  | { readonly kind: 'healthCheck'; readonly output: 'held' | 'alarm' }
  | { readonly kind: 'cancel' }
  | { readonly kind: 'replug'; readonly port: string }
  | { readonly kind: 'loopResistance'; readonly ohm: number }
  | { readonly kind: 'meter'; readonly meter: MeterId }
