import type { CircuitReadings, KeepCircuitReadings } from '@calm/contract/circuit-readings'
import type { Person } from '@calm/contract/people'
import { factsOf } from '@calm/core/loop/facts'
import { circuitRead } from '@calm/core/record/kinds/circuit-read'
import { judgeReadings, meterOff } from '@calm/core/wire/readings'
import { testPoints, testStates } from '@calm/core/wire/test-points'
import type { Database } from '../db/connection.ts'
import { ableInstrumentsOn } from '../equipment/history.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import { appendOnce } from '../record/append-once.ts'

const wrong = (path: string, says: string) =>
  new HttpProblem('wrong-values', 'Some values cannot be used.', [{ path, says }])

/** Judges what was read at the test points by the wiring as it is saved, and keeps it in the record. */
export async function keepCircuitReadings(
  db: Database,
  loopId: string,
  { id, at, state, equipment, readings }: KeepCircuitReadings,
  person: Person,
  now: Date,
): Promise<CircuitReadings> {
  const loop = await loopDetail(db, loopId)
  const { wiring } = loop.document
  if (wiring === null) throw conflict('Nothing is wired on this loop yet.')
  const bench = testStates(wiring).find((s) => s.title === state)
  if (!bench) throw wrong('state', `This loop is not read at “${state}”.`)
  const { points } = testPoints(wiring)
  readings.forEach((r, i) => {
    if (!points.some((p) => p.id === r.id))
      throw wrong(
        `readings.${i}.id`,
        'The saved wiring has no such test point. Save it first, or reload the page.',
      )
  })
  const [instrument] = equipment === null ? [] : await ableInstrumentsOn(db, [equipment], at.slice(0, 10))
  if (equipment !== null && !instrument) throw wrong('equipment', 'There is no such instrument.')
  if (instrument && instrument.dueOn < at.slice(0, 10))
    throw wrong(
      'equipment',
      `The certificate of ${instrument.name} ended on ${instrument.dueOn}. Take another one.`,
    )
  const { relays } = factsOf(loop.document)
  const j = judgeReadings(
    wiring,
    { ...bench.state, relays },
    readings,
    instrument ? meterOff(instrument.functions) : undefined,
  )
  const payload: CircuitReadings = {
    revision: loop.revision,
    state,
    instrument: instrument ? `${instrument.name}, ${instrument.serial}` : null,
    equipment: equipment === null ? [] : [equipment],
    readings: j.judged.map(({ id: point, ...r }) => ({
      place: points.find((p) => p.id === point)?.place ?? point,
      value: r.value,
      unit: r.unit,
      expected: r.expected,
      allowed: r.allowed,
      fits: r.fits,
    })),
    says: j.says,
    causes: [...j.causes],
  }
  await appendOnce(db, loopId, { id, at, type: circuitRead.type, payload }, person, now)
  return payload
}
