import { describe, expect, test } from 'vitest'
import { configurationChanges, type DeviceBackup } from '../device/configuration.ts'
import { comparable, documentedConfiguration } from './configuration-compare.ts'
import { LoopDocument } from '../loop/document.ts'
import { defaultPath } from '../loop/default-path.ts'

const NOW: DeviceBackup = {
  kind: 'backup',
  LRV: 0,
  URV: 200,
  settings: {
    damping_s: 0.8,
    alarm: 'low',
    descriptor: 'media filter',
    address: 0,
    characterization: '4711',
  },
  trims: { sensor: [1, 0], output: [4, 1] },
}
describe('two configurations', () => {
  test.each<[string, Partial<DeviceBackup>, string, string[]]>([
    ['the same', {}, 'COMPARABLE', []],
    ['another name', { settings: { ...NOW.settings, descriptor: 'x' } }, 'COMPARABLE', ['descriptor']],
    ['another address', { settings: { ...NOW.settings, address: 3 } }, 'COMPARABLE', []],
    ['more damping', { settings: { ...NOW.settings, damping_s: 4 } }, 'REVIEW', ['damping']],
    ['the other alarm', { settings: { ...NOW.settings, alarm: 'high' } }, 'REVIEW', ['alarmDirection']],
    ['another range', { URV: 180 }, 'NOT_COMPARABLE', ['urv']],
    ['a trim between', { trims: { sensor: [1, -0.6], output: [4, 1] } }, 'NOT_COMPARABLE', ['sensorTrim']],
    [
      'another sensor',
      { settings: { ...NOW.settings, characterization: '1' } },
      'NOT_COMPARABLE',
      ['kFactor'],
    ],
  ])('%s', (_why, change, verdict, keys) => {
    const d = comparable(NOW, { ...NOW, ...change })
    expect([d.verdict, d.changed.map((c) => c.key)]).toEqual([verdict, keys])
  })
  test('against the documents only what they tell is compared', () => {
    const range = { low: 0, high: 185, unit: 'mbar' }
    const document = LoopDocument.parse({
      version: 4,
      trips: [],
      toKeyIn: [],
      family: 'pressure',
      tag: 'PDT-201',
      service: '',
      area: '',
      type: 'differential pressure',
      signal: '4-20 mA',
      path: defaultPath({ transmitter: range, squareRoot: false, receiver: range }),
      tolerance: null,
      interval_months: 12,
      lastCalibrated: null,
      remark: '',
      asTyped: {},
      unconfirmed: [],
      setUp: null,
      wiring: null,
    })
    const told = documentedConfiguration(document)
    expect(told && configurationChanges(NOW, told)).toEqual([{ key: 'URV', from: 200, to: 185 }])
    expect(documentedConfiguration({ ...document, path: [] })).toBeNull()
  })
})
