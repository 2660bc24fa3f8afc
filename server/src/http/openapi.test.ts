import { ADDRESSES, partsOf, urlOf } from '@calm/contract/api/addresses'
import { CATALOGUE } from '@calm/core/catalogue'
import { createConfig, lintFromString } from '@redocly/openapi-core'
import { describe, expect, test } from 'vitest'
import { openApi } from './openapi.ts'

const description = openApi()
const paths = description['paths'] as Record<string, Record<string, { operationId: string }>>
const operations = Object.values(paths).flatMap((p) => Object.values(p))

describe('the description of the API', () => {
  test('a strict linter finds nothing in it', async () => {
    const config = await createConfig({ extends: ['recommended-strict'] })
    const told = await lintFromString({ source: JSON.stringify(description), config })
    const says = told.map((p) => `${p.ruleId} ${p.message} ${p.location[0]?.pointer}`)
    // A browser that is sent elsewhere gets no 2xx, and that is all its answer.
    expect(says.filter((s) => !/^operation-2xx-response .*session~1provider~1(go|back)/.test(s))).toEqual([])
  })
  test('it holds each address once, and each calculation', () => {
    const addresses = Object.values(ADDRESSES).flatMap((group) => Object.values(group))
    expect(operations).toHaveLength(addresses.length - 1 + CATALOGUE.length)
    expect(new Set(operations.map((o) => o.operationId)).size).toBe(operations.length)
  })
})

describe('an address filled in', () => {
  test.each([
    [urlOf(ADDRESSES.loops.one, { loop: 'PT 202/A' }), '/api/loops/PT%20202%2FA'],
    [urlOf(ADDRESSES.inputs.look, { loop: 'ZS-306', seconds: 60 }), '/api/loops/ZS-306/input?seconds=60'],
    [
      urlOf(ADDRESSES.loops.pocketCard, { loop: 'PT-202', levels: [0, 50, 100] }),
      '/api/loops/PT-202/pocket-card.pdf?levels=0%2C50%2C100',
    ],
    [urlOf(ADDRESSES.devices.look, { loop: 'PT-202', since: undefined }), '/api/loops/PT-202/device'],
  ])('%s', (told, wanted) => expect(told).toBe(wanted))
  test('a name that is missing is a fault of ours', () => {
    expect(() => urlOf(ADDRESSES.runs.one, {})).toThrow('run is missing')
    expect(() => urlOf(ADDRESSES.runs.one, { run: '' })).toThrow('run is missing')
    expect(partsOf(ADDRESSES.loops.save)).toEqual({ method: 'PUT', path: '/api/loops/:loop/document' })
  })
})
