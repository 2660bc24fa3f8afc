import type { DeviceView } from '@calm/contract/devices'
import { mount } from '@vue/test-utils'
import { describe, expect, test } from 'vitest'
import { createVuetify } from 'vuetify'
import DeviceHealth from './DeviceHealth.vue'

const DEVICE: Partial<DeviceView> = {
  relays: [{ says: 'PSHH-1: on at 78 rising, off at 76', energised: true }],
  signals: [
    {
      name: 'drive',
      title: 'Drive gain',
      value: 4.2,
      unit: '%',
      low: 1,
      high: 60,
      reference: 4.1,
      checked: null,
    },
    { name: 'lag', title: 'Time difference', value: 3, unit: 'us', reference: null, checked: null },
  ],
  history: { lowest: -0.2, highest: 81, powerCycles: 3, trims: 2 },
  meter: 'Loop calibrator',
  changedSinceCheck: null,
  sourced_mA: null,
  speed: 1,
}
function health(more: Partial<DeviceView> = {}) {
  const orders: unknown[] = []
  const wrapper = mount(DeviceHealth, {
    props: {
      device: { ...DEVICE, ...more } as DeviceView,
      unit: 'bar g',
      busy: false,
      ask: (c: unknown) => {
        orders.push(c)
        return Promise.resolve(true)
      },
    },
    global: { plugins: [createVuetify()] },
  })
  const field = (label: string) =>
    wrapper
      .findAll('.v-input')
      .find((f) => f.text().includes(label))
      ?.find('input')
  const press = (text: string) =>
    wrapper
      .findAll('button')
      .find((b) => b.text() === text)
      ?.trigger('click')
  return { wrapper, orders, field, press }
}

describe('what a device says of itself', () => {
  test('signals with their limits, the first check, and what was never checked', () => {
    const text = health().wrapper.text()
    expect(text).toMatch(/Drive gain.*4\.2 %.*4\.1.*not yet.*1 to 60/)
    expect(text).toContain('off at 76: energised')
    expect(text).toContain('-0.2 to 81 bar g')
  })
  test('what was changed since the last check is said by its name, or that nothing was', () => {
    expect(health().wrapper.text()).not.toContain('since the last check')
    expect(health({ changedSinceCheck: [] }).wrapper.text()).toContain('Nothing was changed')
    const changed = [{ key: 'damping_s', from: '1', to: '5' }]
    expect(health({ changedSinceCheck: changed }).wrapper.text()).toMatch(/Damping, s 1 → 5/)
  })
  test('a calibrator gives a current in its place, and the transmitter comes back', async () => {
    const { orders, field, press } = health()
    expect(press('Transmitter back into the loop')).toBeUndefined()
    await field('Calibrator gives')?.setValue('12')
    await press('Give the current')
    expect(orders).toEqual([{ kind: 'source', mA: 12 }])
    const given = health({ sourced_mA: 12 })
    await given.press('Transmitter back into the loop')
    expect(given.orders).toEqual([{ kind: 'source', mA: null }])
  })
  test('without a link there is nothing to see', () => {
    expect(health({ signals: [] }).wrapper.text()).toContain('Connect to see')
  })
  test('a value is applied at once or as a ramp; nothing typed applies nothing', async () => {
    const h = health()
    await h.press('Apply it')
    expect(h.orders).toEqual([])
    await h.field('Apply')?.setValue('77,5')
    await h.press('Apply it')
    await h.field('as a ramp')?.setValue('40')
    await h.press('Apply it')
    await h.press('Process back on the sensor')
    expect(h.orders).toEqual([
      { kind: 'apply', value: 77.5 },
      { kind: 'apply', value: 77.5, over_s: 40 },
      { kind: 'apply', value: null },
    ])
  })
})
