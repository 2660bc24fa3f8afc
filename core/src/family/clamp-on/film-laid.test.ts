import { describe, expect, test } from 'vitest'
import { contextOf } from '../../loop/procedure-context.ts'
import { loopOf } from '../../procedure/test/loops.ts'
import { contextMadeFor } from '../../procedure/made-for.ts'
import { CLAMP_ON_START_UP } from './start-up.ts'

/** A gas pipe whose film and sensors were typed. */
function filmStep(entries: Readonly<Record<string, number | string>>) {
  const loop = loopOf('clamp-on')
  const document = {
    ...loop,
    setUp: { ...loop.setUp, values: { ...loop.setUp?.values, fluid: 'air', ...entries } },
  }
  const context = contextOf(document)
  if (!context) throw new Error('no context')
  return CLAMP_ON_START_UP.steps(
    contextMadeFor({
      procedure: 'clamp-on-start-up',
      revision: 1,
      context,
      withDevice: false,
      equipment: [],
    }),
  ).find((s) => s.id === 'film')
}

describe('film by the size of the sensors, before a gas meter is started', () => {
  // The longer the wave the more film: 0.5 mm at 1 MHz, 1 mm at 0.5, 2.5 mm at 0.2; less than 0.6 of it is too little.
  test.each([
    [1, 0.5, 0.29, 0.3],
    [0.5, 1, 0.59, 0.6],
    [0.2, 2.5, 1.49, 1.5],
  ])('%d MHz: %d mm', (frequency_MHz, wanted, little, enough) => {
    const step = filmStep({ frequency_MHz })
    expect(step?.says).toContain(`${wanted} mm in all for sensors of ${frequency_MHz} MHz`)
    expect(step?.gate?.({ layers: 2, film_mm: little }, [])).toMatch(/too little/)
    expect(step?.gate?.({ layers: 2, film_mm: enough }, [])).toBeNull()
    expect(step?.gate?.({ layers: 0, film_mm: enough }, [])).toMatch(/bare wall/)
  })
  test('what the sheet says stands there to be confirmed or corrected', () => {
    expect(
      filmStep({ filmLayers: 3, film_mm: 1.5, frequency_MHz: 0.5 })?.fields?.map((f) => f.preset),
    ).toEqual([3, 1.5])
  })
  test('a liquid asks for none', () => {
    expect(filmStep({ fluid: 'water' })).toBeUndefined()
  })
})
