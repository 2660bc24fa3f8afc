import type { DeviceView } from '@calm/contract/devices'
import { carefulAnswer } from '@calm/core/procedure/careful-answer'
import { applyProcedureEvent } from '@calm/core/procedure/engine'
import type { ProcedureRun } from '@calm/core/procedure/run'
import type { ProcedureEventBody } from '@calm/core/procedure/events'
import type { Step } from '@calm/core/procedure/step'
import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, test } from 'vitest'
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
    payload: { procedure, revision: 1, context: CONTEXT, withDevice, equipment: [] },
  })
  for (let i = 0; i < 60 && run.left[0] && run.left[0].id !== id; i++) run = go(run, answer(run.left[0]))
  return run
}
let orders: unknown[]
let obeys: boolean
beforeEach(() => {
  sessionStorage.clear()
  orders = []
  obeys = true
})
const stable = { pv: { stable: true, n: 40, waitsFor: null, mean: 0.31, sd: 0.01 }, mA: 4.0621 } as never
function card(run: ProcedureRun, more: { device?: Partial<DeviceView>; stability?: never } = {}) {
  const step = run.left[0] as Step
  const wrapper = mount(StepCard, {
    props: {
      run,
      step,
      draftKey: 'k',
      stability: more.stability ?? null,
      device: (more.device ?? null) as DeviceView | null,
      busy: false,
      ask: (command: unknown) => {
        orders.push(command)
        return Promise.resolve(obeys)
      },
    },
    global: { plugins: [createVuetify()] },
  })
  const vm = wrapper.vm as unknown as {
    done: () => Promise<void>
    label: string
    open: boolean
    waiting: boolean
  }
  return {
    wrapper,
    vm,
    answers: () => (wrapper.emitted('answer') ?? []) as [string, Record<string, unknown>][],
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
  test('a reading over the link: what the tool shows, what the device reads, what the meter shows', async () => {
    const run = upTo('zero-trim', 'asFound-1-read', true)
    const device: Partial<DeviceView> = { standardShows: 0.0004, signals: [], alerts: [], task: null }
    const c = card(run, { device, stability: stable })
    await c.wrapper
      .findAll('button')
      .find((b) => b.text() === 'Take the reading')
      ?.trigger('click')
    await c.vm.done()
    expect(c.answers()[0]?.[1]).toMatchObject({ values: { applied: 0.0004, pv: 0.31, mA: 4.0621 } })
  })
  test('a mean of nothing is no reading: it waits for samples of the new input', async () => {
    const run = upTo('zero-trim', 'asFound-1-read', true)
    const device: Partial<DeviceView> = { standardShows: 0, signals: [], alerts: [], task: null }
    const few = { pv: { stable: false, n: 0, waitsFor: 'ten samples', mean: 0, sd: 0 }, mA: 0 } as never
    const c = card(run, { device, stability: few })
    const take = c.wrapper.findAll('button').find((b) => b.text() === 'Take the reading')
    expect(take?.attributes('disabled')).toBe('')
    await take?.trigger('click')
    await c.vm.done()
    expect(c.answers()).toEqual([])
  })
  test('before anything is adjusted the device keeps as found; a refusal leaves the step open', async () => {
    const run = upTo('zero-trim', 'asFound-finish', true)
    obeys = false
    const c = card(run, { device: { signals: [], alerts: [], task: null }, stability: stable })
    await c.vm.done()
    await flushPromises()
    expect(orders).toEqual([{ kind: 'markAsFound' }])
    expect(c.answers()).toEqual([])
    expect(c.wrapper.text()).toContain('The device refused')
    obeys = true
    await c.vm.done()
    expect(c.answers()).toHaveLength(1)
  })
  test('the way back writes as found back over the link', async () => {
    const run = go(upTo('zero-trim', 'asLeft-1-apply', true), {
      type: 'procedure.abortAsked',
      payload: { reason: 'storm' },
    })
    expect(run.left[0]?.id).toBe('abort-revertTrim')
    const c = card(run, { device: { signals: [], alerts: [], task: null }, stability: stable })
    for (const box of c.wrapper.findAll('input[type=checkbox]')) await box.setValue(true)
    await c.vm.done()
    expect(orders).toEqual([{ kind: 'revert' }])
  })
  test('a health check is begun with the output asked for, and waited for', async () => {
    const choose = card(upTo('health-check', 'output', true), {
      device: { signals: [], alerts: [], task: null },
      stability: stable,
    })
    expect(choose.wrapper.text()).toContain('Held where it is (recommended)')
    await choose.wrapper.findAll('input[type=radio]')[1]?.setValue()
    await choose.vm.done()
    expect(orders).toEqual([{ kind: 'healthCheck', output: 'alarm' }])
    const run = upTo('health-check', 'run', true)
    const busy = card(run, {
      device: { signals: [], alerts: [], task: { kind: 'healthCheck', progress: 0.5, left_s: 30 } },
      stability: stable,
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
      reference,
      checked,
    })
    const c = card(upTo('health-check', 'result', true), {
      device: {
        signals: [signal('a', 100, 103), signal('b', 50, 48)],
        alerts: ['Drive gain is high.'],
        task: null,
      },
      stability: stable,
    })
    await c.wrapper
      .findAll('button')
      .find((b) => b.text() === 'Take the reading')
      ?.trigger('click')
    await c.vm.done()
    expect(c.answers()[0]?.[1]).toMatchObject({ values: { change_pct: 4, alerts: 1 } })
  })
})
