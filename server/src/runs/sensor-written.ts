import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import type { LoopDocument } from '@calm/core/loop/document'
import { procedureOf } from '@calm/core/procedure/catalogue'
import type { SensorDescription } from '@calm/core/sensor/sensor'
import type { Executor } from '../db/connection.ts'
import type { AnyRun } from '../record/fold.ts'
import { allSensors, saveSensorIn } from '../sensors/store.ts'

/**
 * A write that is the plant's sensor's own goes into its description too, in the record's transaction: the sensor
 * brings it along to the next loop.
 */
export async function writeIntoSensor(
  tx: Executor,
  event: NewEvent,
  before: AnyRun | null,
  document: LoopDocument,
  person: Person,
  now: Date,
): Promise<void> {
  const { body, at } = event
  if (body.type !== 'procedure.step' || before?.kind !== 'procedure') return
  const { run } = before
  const id = document.setUp?.sensor
  const step = run.left[0]
  const change = procedureOf(run.started.procedure)?.sensorAfter
  if (!id || !change || step?.kind !== 'write' || run.started.rules === undefined) return
  const sensor = (await allSensors(tx, now)).find((s) => s.id === id)
  if (!sensor) return
  const today = at.slice(0, 10)
  const values = change(run, sensor.description.values, sensor.description.certifiedOn, today)
  if (!values) return
  const { dueOn } = sensor.description
  const description: SensorDescription = {
    ...sensor.description,
    values: values as SensorDescription['values'],
    certifiedOn: today,
    dueOn: dueOn !== null && dueOn > today ? dueOn : null,
  }
  const reason = `Calibrated on ${document.tag}.`
  await saveSensorIn(tx, id, { base: sensor.revision, description, reason }, person, now)
}
