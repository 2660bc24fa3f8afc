import { describe, expect, test } from 'vitest'
import { shortManifold } from './short-form.ts'

describe('the short manifold', () => {
  test('out and in keep the rules; the equaliser first does not', () => {
    const out = shortManifold(['closeL', 'openE', 'closeH', 'openV'])
    expect(out).toMatchObject({ rule: null, zeroReady: true, inService: false })
    expect(shortManifold(['closeV', 'openH', 'closeE', 'openL'], out.valves)).toMatchObject({
      rule: null,
      inService: true,
    })
    expect(shortManifold(['openE'])).toMatchObject({ rule: 'THROUGH_FLOW', at: 0 })
    expect(shortManifold(['closeL', 'openV'])).toMatchObject({ rule: 'VENT_TO_PROCESS', at: 1 })
    expect(shortManifold(['closeL', 'closeH', 'openV'])).toMatchObject({ rule: 'ONE_SIDED_VENT', at: 2 })
  })
})
