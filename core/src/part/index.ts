import { analogueInput } from './kinds/analogue-input.ts'
import { analogueOutput } from './kinds/analogue-output.ts'
import { barrier } from './kinds/barrier.ts'
import { busBar } from './kinds/bus-bar.ts'
import { cable } from './kinds/cable.ts'
import { contactor } from './kinds/contactor.ts'
import { cylinderSwitch } from './kinds/cylinder-switch.ts'
import { digitalConverter } from './kinds/digital-converter.ts'
import { digitalInput } from './kinds/digital-input.ts'
import { diode } from './kinds/diode.ts'
import { dryContact } from './kinds/dry-contact.ts'
import { floatSwitch } from './kinds/float-switch.ts'
import { fourWireActive } from './kinds/four-wire-active.ts'
import { fourWirePassive } from './kinds/four-wire-passive.ts'
import { fuse } from './kinds/fuse.ts'
import { isolator } from './kinds/isolator.ts'
import { lamp } from './kinds/lamp.ts'
import { levelController } from './kinds/level-controller.ts'
import { calibratorDriving, calibratorSimulating } from './kinds/loop-calibrator.ts'
import { loopDisplay } from './kinds/loop-display.ts'
import { mains } from './kinds/mains.ts'
import { motor } from './kinds/motor.ts'
import { multimeter } from './kinds/multimeter.ts'
import { namurAmplifier } from './kinds/namur-amplifier.ts'
import { namurSensor } from './kinds/namur-sensor.ts'
import { panelDisplay } from './kinds/panel-display.ts'
import { positioner } from './kinds/positioner.ts'
import { proximityThreeWire } from './kinds/proximity-three-wire.ts'
import { proximityTwoWire } from './kinds/proximity-two-wire.ts'
import { pushButton } from './kinds/push-button.ts'
import { relay } from './kinds/relay.ts'
import { resistanceSensor } from './kinds/resistance-sensor.ts'
import { resistor } from './kinds/resistor.ts'
import { selector } from './kinds/selector.ts'
import { serialPort } from './kinds/serial-port.ts'
import { serialSensor } from './kinds/serial-sensor.ts'
import { solenoid } from './kinds/solenoid.ts'
import { supply } from './kinds/supply.ts'
import { surgeProtector } from './kinds/surge-protector.ts'
import { temperatureHead } from './kinds/temperature-head.ts'
import { terminalStrip } from './kinds/terminal-strip.ts'
import { threeWireTransmitter } from './kinds/three-wire-transmitter.ts'
import { tripContact } from './kinds/trip-contact.ts'
import { twoWireTransmitter } from './kinds/two-wire-transmitter.ts'
import type { PartKind } from './part-kind.ts'

/** Every kind of part, in the order of the signal path. A kind that saved loops name is retired, never deleted. */
export const PART_KINDS: readonly PartKind[] = [
  resistanceSensor,
  twoWireTransmitter,
  temperatureHead,
  threeWireTransmitter,
  fourWireActive,
  fourWirePassive,
  serialSensor,
  calibratorSimulating,
  calibratorDriving,
  proximityThreeWire,
  proximityTwoWire,
  namurSensor,
  cylinderSwitch,
  floatSwitch,
  dryContact,
  tripContact,
  pushButton,
  selector,
  positioner,
  motor,
  solenoid,
  cable,
  terminalStrip,
  busBar,
  fuse,
  surgeProtector,
  barrier,
  isolator,
  namurAmplifier,
  loopDisplay,
  panelDisplay,
  levelController,
  relay,
  resistor,
  diode,
  supply,
  mains,
  analogueInput,
  analogueOutput,
  digitalConverter,
  digitalInput,
  serialPort,
  lamp,
  contactor,
  multimeter,
]

const ranks = new Map(PART_KINDS.map((k, i) => [k.kind, i]))
const byKind = new Map(PART_KINDS.map((k) => [k.kind, k]))
/** Place of a kind along the signal path. */
export const kindRank = (kind: Pick<PartKind, 'kind'>): number => ranks.get(kind.kind) ?? PART_KINDS.length

export const partKind = (kind: string): PartKind | null => byKind.get(kind) ?? null
