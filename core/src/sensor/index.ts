import { clampOnPair } from './kinds/clamp-on-pair.ts'
import { insertionProbe } from './kinds/insertion-probe.ts'
import { phSensor } from './kinds/ph-sensor.ts'
import { portableKit } from './kinds/portable-kit.ts'
import type { SensorKind } from './sensor-kind.ts'

/** Every kind of sensor that a plant keeps as a thing. */
export const SENSOR_KINDS: readonly SensorKind[] = [clampOnPair, insertionProbe, phSensor, portableKit]
export const sensorKindOf = (id: string): SensorKind | undefined => SENSOR_KINDS.find((k) => k.id === id)
