import type { DeviceView } from '@calm/contract/devices'
import { carefulAnswer } from '@calm/core/procedure/careful-answer'
import { applyProcedureEvent } from '@calm/core/procedure/engine'
import { GATE_IDS } from '@calm/core/procedure/gate'
import type { ProcedureRun } from '@calm/core/procedure/run'
import type { ProcedureEventBody } from '@calm/core/procedure/events'
import type { Step } from '@calm/core/procedure/step'
import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, test, vi } from 'vitest'
import { createVuetify } from 'vuetify'
import StepCard from './StepCard.vue'

const CONTEXT = {
  tag: 'PT-1',
  range: { low: 0, high: 80, unit: 'bar(g)' },
  limits: { low: -20, high: 160 },
  kind: 'gauge' as const,
  tolerance_pct: 0.25,
  tau_s: 1,
  manifold: null,
}
function go(run: ProcedureRun | null, body: ProcedureEventBody): ProcedureRun {
  const next = applyProcedureEvent(run, { body, by: 'wren', at: '2026-11-26T10:00:00.000Z' })
  if (next.kind === 'refused') throw new Error(next.says)
  return next.run
}
/** It reads 0.4 bar too much. */
function answer(step: Step): ProcedureEventBody {
  const x = step.apply ?? 0
  return carefulAnswer(step, { applied: x + 0.4, pv: x + 0.4, mA: 4.1 })
}
/** A procedure up to the step with an identifier. */
function upTo(procedure: string, id: string, withDevice = false): ProcedureRun {
  let run = go(null, {
    type: 'procedure.started',
    payload: { procedure, revision: 1, context: CONTEXT, withDevice, equipment: [], rules: 3 },
  })
  for (let i = 0; i < 60 && run.left[0] && run.left[0].id !== id; i++) {
    const body = answer(run.left[0])
    // What the device showed on the way is not what these are about.
    if (body.type === 'procedure.step' && (run.left[0].gates ?? []).length > 0)
      body.payload.overruled = { gates: [...GATE_IDS], reason: 'for the test' }
    run = go(run, body)
  }
  return run
}
let orders: unknown[]
let sent: [string, Record<string, unknown>][]
beforeEach(() => {
  sessionStorage.clear()
  orders = []
  sent = []
})
/** A device that has stood at a reading for so long, s. */
const standing = (pv: number, seconds: number, more: Partial<DeviceView> = {}): Partial<DeviceView> => ({
  t_s: 100,
  connected: true,
  unlocked: true,
  powered: true,
  movedAt_s: 100 - seconds,
  fixed_mA: null,
  standardShows: 0,
  settings: null,
  range: null,
  samples: Array.from({ length: 160 }, (_, i) => ({
    ...{ t_s: 60 + (i + 1) / 4, PV: pv, percent: 0, mA: 4.0621 },
  })),
  signals: [],
  alerts: [],
  task: null,
  checks: 1,
  ...more,
})
function card(run: ProcedureRun, more: { device?: Partial<DeviceView> } = {}) {
  const step = run.left[0] as Step
  const wrapper = mount(StepCard, {
    props: {
      run,
      step,
      draftKey: 'k',
      device: (more.device ?? null) as DeviceView | null,
      busy: false,
      ask: (command: unknown) => {
        orders.push(command)
        return Promise.resolve(true)
      },
      answer: (id: string, a: Record<string, unknown>) => {
        sent.push([id, a])
        return Promise.resolve(true)
      },
    },
    global: { plugins: [createVuetify()] },
  })
  const vm = wrapper.vm as unknown as {
    done: () => Promise<void>
    label: string
    open: boolean
    waiting: boolean
    locked: boolean
  }
  return {
    wrapper,
    vm,
    answers: () => sent,
  }
}

describe('one step of a procedure', () => {
  test('every point of a hold has to be ticked', async () => {
    const c = card(upTo('zero-trim', 'cautions'))
    expect(c.vm.open).toBe(true)
    await c.vm.done()
    expect(c.answers()).toEqual([])
    for (const box of c.wrapper.findAll('input[type=checkbox]')) await box.setValue(true)
    expect(c.vm.open).toBe(false)
    await c.vm.done()
    expect(c.answers()[0]?.[1]).toMatchObject({ ticks: 2 })
  })
  test('an operator’s name is asked for once and offered again', async () => {
    const first = card(upTo('zero-trim', 'manual'))
    for (const box of first.wrapper.findAll('input[type=checkbox]')) await box.setValue(true)
    expect(first.vm.open).toBe(true)
    await first.wrapper.find('input[type=text]').setValue('Sandpiper')
    expect(first.vm.open).toBe(false)
    await first.vm.done()
    expect(first.answers()[0]?.[1]).toMatchObject({ confirmedBy: 'Sandpiper' })
    sessionStorage.clear()
    const later = card(upTo('zero-trim', 'bypass'))
    expect((later.wrapper.find('input[type=text]').element as HTMLInputElement).value).toBe('Curlew')
  })
  test('what was ticked and typed survives a closed lid, for its own step only', async () => {
    const run = upTo('zero-trim', 'cautions')
    const c = card(run)
    const [box] = c.wrapper.findAll('input[type=checkbox]')
    await box?.setValue(true)
    c.wrapper.unmount()
    const again = card(run)
    expect(
      again.wrapper.findAll('input[type=checkbox]').map((b) => (b.element as HTMLInputElement).checked),
    ).toEqual([true, false])
    again.wrapper.unmount()
    const other = card(upTo('zero-trim', 'isolate'))
    expect(
      other.wrapper.findAll('input[type=checkbox]').some((b) => (b.element as HTMLInputElement).checked),
    ).toBe(false)
  })
  const press = (c: ReturnType<typeof card>, name: string) =>
    c.wrapper
      .findAll('button')
      .find((x) => x.text() === name)
      ?.trigger('click')
  const gate = (c: ReturnType<typeof card>, id: string) => c.wrapper.find(`[data-gate=${id}]`).text()
  test('a reading over the link: what the tool shows, what the device reads, what the meter shows', async () => {
    const c = card(upTo('zero-trim', 'asFound-1-read', true), {
      device: standing(0.05, 30, { standardShows: 0.0004 }),
    })
    expect(gate(c, 'still')).toMatch(/Standing still.*samples over/)
    await press(c, 'Take the reading')
    await c.vm.done()
    expect(c.answers()[0]?.[1]).toMatchObject({
      values: { applied: 0.0004, pv: 0.05, mA: 4.0621 },
      seen: { n: 44, held_mA: null },
    })
  })
  test.each<[string, Partial<DeviceView>, string, RegExp]>([
    ['four samples after it moved', standing(0, 1), 'still', /10 samples since it moved; 4 are there/],
    ['too short a time', standing(0, 6), 'still', /10 s at this input; 5 s are over/],
    [
      'the pump at another point',
      standing(0, 30, { standardShows: 40 }),
      'input',
      /waits for 0 bar g.*shows 40/,
    ],
    ['the process still on it', standing(0, 30, { standardShows: null }), 'input', /the process is still on/],
    ['a sensor at its end', standing(160, 30), 'limit', /the sensor is at its end/],
    ['no link', standing(0, 30, { connected: false }), 'still', /waits for readings from the device/],
  ])('the button stays shut and says what it waits for: %s', async (_why, device, id, says) => {
    const c = card(upTo('zero-trim', 'asFound-1-read', true), { device })
    expect(gate(c, id)).toMatch(says)
    expect(c.vm.open).toBe(true)
    await c.vm.done()
    expect(c.answers()).toEqual([])
  })
  test('against a gate it goes on with a reason, which is sent with the gates it passes over', async () => {
    const c = card(upTo('zero-trim', 'asFound-1-read', true), { device: standing(0, 1) })
    await press(c, 'Go on against it, with a reason')
    expect(c.vm.open).toBe(true)
    await c.wrapper.find('textarea').setValue('rain')
    expect([c.vm.open, c.vm.label]).toEqual([false, 'Go on against the gate'])
    await c.vm.done()
    expect(c.answers()[0]?.[1]).toMatchObject({ overruled: { gates: ['still'], reason: 'rain' } })
  })
  test('typed readings are typed twice, with time between them', async () => {
    vi.useFakeTimers({ now: new Date('2026-11-26T10:00:00Z') })
    try {
      const c = card(upTo('zero-trim', 'asFound-1-read'))
      const fields = () => c.wrapper.findAll('input')
      const type = async (values: string[]) => {
        for (const [i, v] of values.entries()) {
          await fields()[i]?.setValue(v)
          await fields()[i]?.trigger('change')
        }
      }
      await type(['0', '0,31', '4,06'])
      expect(gate(c, 'still')).toMatch(/waits for a first reading/)
      await press(c, 'Note the first reading')
      await type(['0', '0,31', '4,06'])
      expect(gate(c, 'still')).toMatch(/waits for 15 s since/)
      vi.advanceTimersByTime(16_000)
      await flushPromises()
      expect(gate(c, 'still')).toMatch(/two readings 16 s apart agree/)
      expect(c.vm.open).toBe(false)
      await c.vm.done()
      expect(c.answers()[0]?.[1]).toMatchObject({ values: { pv: 0.31 }, again: { values: { pv: 0.31 } } })
    } finally {
      vi.useRealTimers()
    }
  })
  test('what the device is told is the server’s to do, with the event: the card asks nothing of it', async () => {
    const c = card(upTo('zero-trim', 'asFound-finish', true), { device: standing(0, 30) })
    await c.vm.done()
    expect(orders).toEqual([])
    expect(c.answers()).toHaveLength(1)
  })
  test('what a locked device would refuse stays closed; what only the tool does, does not', async () => {
    const at = async (step: string, unlocked: boolean) => {
      const c = card(upTo('health-check', step, true), { device: standing(0, 30, { unlocked }) })
      for (const radio of c.wrapper.findAll('input[type=radio]').slice(0, 1)) await radio.setValue()
      return [c.vm.locked, c.vm.open]
    }
    expect(await at('output', false)).toEqual([true, true])
    expect(await at('output', true)).toEqual([false, false])
    const tool = card(upTo('zero-trim', 'asFound-finish', true), {
      device: standing(0, 30, { unlocked: false }),
    })
    expect([tool.vm.locked, tool.vm.open]).toEqual([false, false])
  })
  test('a health check is begun with the output asked for, and waited for', async () => {
    const choose = card(upTo('health-check', 'output', true), { device: standing(0, 30) })
    expect(choose.wrapper.text()).toContain('Held where it is (recommended)')
    await choose.wrapper.findAll('input[type=radio]')[1]?.setValue()
    await choose.vm.done()
    expect(choose.answers()[0]?.[1]).toMatchObject({ choice: 'alarm', confirmedBy: 'Curlew' })
    const busy = card(upTo('health-check', 'run', true), {
      device: standing(0, 30, { task: { kind: 'healthCheck', progress: 0.5, left_s: 30 } }),
    })
    expect(busy.vm.waiting).toBe(true)
    expect(busy.wrapper.text()).toContain('30 s to go')
  })
  test('the largest change of a health check is told by the device', async () => {
    const signal = (name: string, reference: number, checked: number) => ({
      name,
      title: name,
      value: checked,
      unit: '%',
      figure: true,
      reference,
      checked,
    })
    const c = card(upTo('health-check', 'result', true), {
      device: standing(0, 30, {
        signals: [
          signal('a', 100, 103),
          signal('b', 50, 48),
          // Moves with the process: no figure of the device's health.
          { ...signal('lag', 1, 9), figure: false },
        ],
        alerts: ['Drive gain is high.'],
        checks: 3,
      }),
    })
    await c.wrapper
      .findAll('button')
      .find((b) => b.text() === 'Take the reading')
      ?.trigger('click')
    await c.vm.done()
    expect(c.answers()[0]?.[1]).toMatchObject({ values: { before: 2, change_pct: 4, alerts: 1 } })
  })
})
