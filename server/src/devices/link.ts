import type { Answer } from '@calm/core/device/commands'
import type { DeviceBackup } from '@calm/core/device/configuration'
import type { DeviceCommand } from '@calm/core/device/command'
import type { DeviceOrder, DeviceView, LinkTest, Ports } from '@calm/contract/devices'
import type { Pool } from '../work/pool.ts'
import type { Executor } from '../db/connection.ts'

/** What a device keeps of what was done to it, and of what was wrong; times by its own clock. */
export interface ServiceFiles {
  readonly audit: readonly { readonly at: string; readonly says: string }[]
  readonly alarms: readonly { readonly at: string; readonly gone: string | null; readonly says: string }[]
}

/**
 * A link to the device of a loop. The stand-in is its first implementation; a modem or a gateway is another one
 * behind the same questions, and no procedure, page or record would know the difference.
 */
export interface DeviceLink {
  /** The device as it is now; with `since_s` only the samples that came after that device time. */
  readonly look: (loopId: string, now: number, since_s?: number) => Promise<DeviceView>
  /** Asks for something; an order that comes twice is carried out once. */
  readonly ask: (
    loopId: string,
    order: DeviceOrder,
    now: number,
  ) => Promise<{ readonly answer: Answer; readonly device: DeviceView }>
  /** The device as it is, held until the record that is written beside it is stored or given up. */
  readonly lookIn: (tx: Executor, loopId: string, now: number) => Promise<DeviceView>
  /** An order as one act with what is written in `tx`: both, or neither. */
  readonly askIn: (
    tx: Executor,
    loopId: string,
    order: { readonly id: string; readonly command: DeviceCommand },
    now: number,
  ) => Promise<{ readonly answer: Answer }>
  /** Where an adaptor is plugged in, and the way from a port to the device part by part. */
  readonly ports: (loopId: string, now: number) => Promise<Ports>
  readonly linkTest: (loopId: string, port: string, now: number) => Promise<LinkTest>
  /** Readings that came from its memory, by its own clock, as CSV; null where none were fetched. */
  readonly history: (loopId: string, now: number, pool: Pool, gone: AbortSignal) => Promise<string | null>
  readonly service: (loopId: string, now: number) => Promise<ServiceFiles>
  /** Everything it was told; null where it does not answer. */
  readonly configuration: (loopId: string, now: number) => Promise<DeviceBackup | null>
  /** The same whether or not it is linked: for files that are made at the device itself. */
  readonly backup: (loopId: string, kind: DeviceBackup['kind'], now: number) => Promise<DeviceBackup>
}
