import type { DeviceMemory, DeviceView, LinkTest, Ports } from '@calm/contract/devices'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import type { Component } from 'vue'
import { createVuetify } from 'vuetify'
import DeviceFiles from './DeviceFiles.vue'
import HoldsPanel from './HoldsPanel.vue'
import LinkPanel from '../../../device/LinkPanel.vue'
import { ON_LOOP } from '../../../device/use-device.ts'

let ports: Ports
let way: LinkTest
let memory: DeviceMemory
let kept: object
const all = (names: string): Ports => ['A', 'B', 'C'].map((name) => ({ name, adaptor: names.includes(name) }))
beforeEach(() => {
  ports = all('A')
  way = [{ part: 'Port A', answers: true, says: 'An adaptor is plugged in.' }]
  memory = []
  kept = {}
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => {
    const told = path.endsWith('/ports') ? ports : path.includes('/link') ? way : memory
    return Promise.resolve(new Response(JSON.stringify(init?.method === 'POST' ? kept : told)))
  })
})
afterEach(() => vi.unstubAllGlobals())

async function panel(component: Component, props: object = {}) {
  const orders: unknown[] = []
  const wrapper = mount(component, {
    props: {
      loopId: 'loop',
      busy: false,
      ask: (c: unknown) => {
        orders.push(c)
        return Promise.resolve(true)
      },
      ...props,
    },
    global: { plugins: [createVuetify()] },
  })
  await flushPromises()
  const press = async (text: string) => {
    const button = wrapper.findAll('button').find((b) => b.text().startsWith(text))
    if (!button) throw new Error(`no button ${text}`)
    await button.trigger('click')
    await flushPromises()
  }
  return { wrapper, orders, press }
}
const items = (w: { findComponent: (by: { name: string }) => { props: (name: string) => unknown } }) =>
  (w.findComponent({ name: 'VSelect' }).props('items') as { title: string }[]).map((i) => i.title)

describe('finding the device', () => {
  test('a port that came and one that went since the last look are told', async () => {
    const { wrapper, press } = await panel(LinkPanel, { deviceId: 'loop', at: ON_LOOP })
    expect(items(wrapper)).toEqual([
      'Port A: adaptor plugged in',
      'Port B: nothing plugged in',
      'Port C: nothing plugged in',
    ])
    ports = all('B')
    await press('Look again')
    expect(items(wrapper)[0]).toBe('Port A: gone since the last look')
    expect(items(wrapper)[1]).toBe('Port B: new since the last look')
  })
  test('it connects where every part answers; else it says which one is silent and asks nothing', async () => {
    const { wrapper, orders, press } = await panel(LinkPanel, { deviceId: 'loop', at: ON_LOOP })
    await press('Connect')
    expect(orders).toEqual([{ kind: 'connect', port: 'A' }])
    way = [
      { part: 'Port A', answers: true, says: 'An adaptor is plugged in.' },
      { part: 'Loop at the adaptor', answers: false, says: 'Only 100 Ω in the loop.' },
      { part: 'Supply', answers: null, says: 'Not asked.' },
    ]
    await press('Connect')
    expect(orders).toHaveLength(1)
    expect(wrapper.find('[role=alert]').text()).toMatch(/Loop at the adaptor: silent.*Only 100 Ω.*not asked/s)
  })
})

const line = (says: string, sheet: string | null, holds: string | null, vital = false) => ({
  says,
  part: '',
  sheet,
  holds,
  same: sheet === holds,
  vital,
})
const LINKED = { connected: true, powered: true, unlocked: true, stored: true, settings: {} }
const holds = (more: object = {}) =>
  panel(HoldsPanel, { device: { ...LINKED, ...more } as unknown as DeviceView })

describe('what it holds', () => {
  test('all as the sheet says', async () => {
    memory = [line('Pipe wall', '6.02 mm', '6.02 mm')]
    const { wrapper } = await holds()
    expect(wrapper.text()).toContain('every line is as the sheet says')
  })
  test('what differs comes first and is keyed in by the sheet, one or all; what nobody knows is not', async () => {
    memory = [
      line('Pipe wall', '6.02 mm', '7.11 mm'),
      line('Factor', '31.842', null, true),
      line('Excitation', 'not entered', null),
      line('Damping', '1 s', '1 s'),
    ]
    const { wrapper, orders, press } = await holds()
    expect(wrapper.text()).toContain('3 of 4 lines are not as the sheet says')
    expect(wrapper.text()).toContain('without it nothing is measured')
    await press('Key in all 2 by the sheet')
    expect(orders).toEqual([{ kind: 'keyIn', lines: { 'Pipe wall': '6.02 mm', Factor: '31.842' } }])
  })
  test('recorded as read back it says how much, until something changes', async () => {
    memory = [line('Pipe wall', '6.02 mm', '7.11 mm')]
    const { wrapper, press } = await holds()
    kept = { revision: 2, left: 0, link: 'simulated', lines: [{}] }
    await press('Record it as read back')
    expect(wrapper.text()).toContain('1 line is in the record as read back, simulated.')
    memory = [line('Pipe wall', '6.02 mm', '6.02 mm')]
    await wrapper.find('input').setValue('6.02 mm')
    await press('Key in')
    expect(wrapper.text()).not.toContain('in the record')
  })
  test('what is typed goes before the sheet', async () => {
    memory = [line('Pipe wall', '6.02 mm', '7.11 mm')]
    const { wrapper, orders, press } = await holds()
    await wrapper.find('input').setValue('5.5 mm')
    await press('Key in')
    expect(orders).toEqual([{ kind: 'keyIn', lines: { 'Pipe wall': '5.5 mm' } }])
  })
  test('locked it is only read; without a link not even that', async () => {
    memory = [line('Pipe wall', '6.02 mm', '7.11 mm')]
    const locked = (await holds({ unlocked: false })).wrapper
    expect(locked.findAll('button').map((b) => b.text())).toEqual(['Record it as read back'])
    expect((await holds({ connected: false })).wrapper.text()).toBe('Connect to read what it holds.')
  })
})

const REMEMBERS = {
  ...LINKED,
  t_s: 1000,
  speed: 1,
  task: null,
  totals: [],
  download: null,
  remembers: 3,
  alarms: [],
  audit: [],
}
const files = (more: object = {}) =>
  panel(DeviceFiles, { tag: 'FT-1', device: { ...REMEMBERS, ...more } as unknown as DeviceView })

describe('what it remembers', () => {
  test('size and time are told before it is fetched', async () => {
    const { wrapper, orders, press } = await files()
    expect(wrapper.text()).toMatch(/1440 readings, about 50\.6 KB,\s+24 s on this link/)
    await press('Fetch')
    expect(orders).toEqual([{ kind: 'history', every_s: 60, hours: 24 }])
  })
  test('an unfinished one goes on; alarms say when they came and went', async () => {
    const { wrapper, orders, press } = await files({
      download: { every_s: 60, rows: 1440, got: 600 },
      alarms: [
        { says: 'The output is held.', at_s: 900, gone_s: 970 },
        { says: 'Signal low.', at_s: 400, gone_s: null },
      ],
    })
    expect(wrapper.text()).toContain('600 readings as CSV')
    expect(wrapper.text()).toMatch(/Signal low\. 10 min ago, still there/)
    expect(wrapper.text()).toMatch(/held\. 100 s ago, gone 30 s ago/)
    await press('Go on behind 600 of 1440')
    expect(orders).toEqual([{ kind: 'resume' }])
  })
  test('a totalizer is set to zero by its number, and only unlocked', async () => {
    const totals = [
      { value: 12, unit: 'kg' },
      { value: 3, unit: 'kg' },
    ]
    const { wrapper, orders } = await files({ totals })
    await wrapper.find('[aria-label="Set totalizer 2 to zero"]').trigger('click')
    expect(orders).toEqual([{ kind: 'resetTotal', which: 2 }])
    expect((await files({ totals, unlocked: false })).wrapper.text()).not.toContain('Set to zero')
  })
})
