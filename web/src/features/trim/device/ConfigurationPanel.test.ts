import type { DeviceView } from '@calm/contract/devices'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { createVuetify } from 'vuetify'
import ConfigurationPanel from './ConfigurationPanel.vue'

let asked: { method: string; path: string; body: unknown }[]
let reached: boolean
const KEPT = {
  id: '00000000-0000-4000-8000-000000000007',
  at: '2026-11-20T10:00:00.000Z',
  byName: 'Wren',
  note: '',
  configuration: { kind: 'backup', LRV: 0, URV: 80, settings: {} },
}
const DIFFERENCES = {
  device: [{ key: 'damping_s', from: '0.8', to: '5' }],
  record: [],
  verification: { at: '2026-06-15T09:17:00.000Z', verdict: 'REVIEW', changed: [] },
}
const LOADED = {
  changed: [
    { key: 'damping_s', from: '5', to: '0.8' },
    { key: 'URV', from: '80', to: '90' },
    { key: 'characterization', from: '1', to: '2' },
  ],
  otherSensor: true,
}
beforeEach(() => {
  asked = []
  reached = true
  vi.stubGlobal('fetch', (path: string, init?: { method?: string; body?: string }) => {
    const method = init?.method ?? 'GET'
    asked.push({ method, path, body: init?.body ? JSON.parse(init.body) : null })
    if (!reached) return Promise.reject(new TypeError('offline'))
    const told = path.endsWith('/device/differences')
      ? LOADED
      : path.endsWith('/differences')
        ? DIFFERENCES
        : method === 'POST'
          ? { stored: true }
          : [KEPT]
    return Promise.resolve(new Response(JSON.stringify(told)))
  })
})
afterEach(() => vi.unstubAllGlobals())

async function panel(connected = true) {
  const orders: unknown[] = []
  const wrapper = mount(ConfigurationPanel, {
    props: {
      loopId: 'loop',
      tag: 'PT-1',
      device: { connected, task: null, audit: [] } as unknown as DeviceView,
      busy: false,
      ask: (c: unknown) => {
        orders.push(c)
        return Promise.resolve(true)
      },
    },
    global: { plugins: [createVuetify()] },
  })
  await flushPromises()
  const button = (text: string) => wrapper.findAll('button').find((b) => b.text().startsWith(text))
  const pick = async (text: string) => {
    const file = new File([text], 'x.json', { type: 'application/json' })
    await wrapper.findComponent({ name: 'VFileInput' }).vm.$emit('update:modelValue', file)
    await flushPromises()
    await vi.waitFor(() =>
      expect(wrapper.text()).toMatch(/Would be|not a configuration|not JSON|exactly this/),
    )
  }
  return { wrapper, orders, button, pick }
}

describe('a configuration', () => {
  test('kept ones are held against device, documents and the last verification', async () => {
    const p = await panel()
    await p.button('20 Nov 2026')?.trigger('click')
    await flushPromises()
    const text = p.wrapper.text()
    expect(text).toMatch(/Device now:.*Damping, s 0\.8 → 5/)
    expect(text).toContain('Documents: the same.')
    expect(text).toMatch(/Last verification, 15 Jun 2026:\s+Look at it before results are compared/)
  })
  test('keeping sends one identifier until it is stored', async () => {
    const p = await panel()
    reached = false
    await p.button('Keep this')?.trigger('click')
    await flushPromises()
    expect(p.wrapper.text()).toContain('cannot be reached')
    reached = true
    await p.button('Keep this')?.trigger('click')
    await flushPromises()
    const ids = asked.filter((a) => a.method === 'POST').map((a) => (a.body as { id: string }).id)
    expect(ids[0]).toBe(ids[1])
  })
  test('without a link nothing is kept', async () => {
    const p = await panel(false)
    expect(p.button('Keep this')?.attributes('disabled')).toBe('')
    expect((await panel(true)).button('Keep this')?.attributes('disabled')).toBeUndefined()
  })
  test('loading writes what differs and never another sensor’s characterization', async () => {
    const p = await panel()
    await p.pick(
      JSON.stringify({
        kind: 'backup',
        LRV: 0,
        URV: 90,
        settings: { damping_s: 0.8, characterization: '2' },
      }),
    )
    expect(p.wrapper.text()).toMatch(/Characterization of the sensor.*another sensor’s, will not be written/)
    await p.button('Write what differs')?.trigger('click')
    await flushPromises()
    expect(p.orders).toEqual([
      { kind: 'write', settings: { damping_s: 0.8 } },
      { kind: 'applySettings' },
      { kind: 'adjust', adjustment: { kind: 'range', LRV: 0, URV: 90 } },
    ])
  })
  test.each([
    ['{"a":1}', 'This file is not a configuration'],
    ['not json', 'This file is not JSON'],
  ])('%s is told', async (text, says) => {
    const p = await panel()
    await p.pick(text)
    expect(p.wrapper.text()).toContain(says)
    expect(p.orders).toEqual([])
  })
})
