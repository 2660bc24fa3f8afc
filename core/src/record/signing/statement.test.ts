import { createHash, createPrivateKey, sign } from 'node:crypto'
import { describe, expect, test } from 'vitest'
import type { ProcedureRun } from '../../procedure/run.ts'
import { contextFor, deviceFor } from '../../procedure/test/loops.ts'
import { beginJob, perform } from '../../procedure/test/technician.ts'
import { begunRun } from '../run-changes.ts'
import { contentsText, procedureContentsText, statementText, type SignedStatement } from './statement.ts'

const sha256 = (text: string) => createHash('sha256').update(text, 'utf8').digest('hex')
const told: SignedStatement = {
  v: 1,
  loop: '0193a0f2-0000-7b00-8000-000000000001',
  event: '0193a0f2-5a10-7b00-8000-0000000000aa',
  by: '018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0001',
  meaning: 'performed',
  of: '9f86d081884c7d659a2feaa0c55ad015a3bf4f1b2b0b822cd15d6c15b0f00a08',
  at: '2026-11-27T14:05:00.000Z',
}

describe('what is signed, by the worked example', () => {
  test('its bytes', () => {
    expect(sha256(statementText(told))).toBe(
      '7ed4dd3ca7bbb0f7f36fc91ff0dd8b4a4204a75aa1f927709aaefa1d5dbd58f5',
    )
  })
  test('its signature', () => {
    const key = createPrivateKey({
      key: Buffer.from(`302e020100300506032b657004220420${'00'.repeat(31)}2a`, 'hex'),
      format: 'der',
      type: 'pkcs8',
    })
    expect(sign(null, Buffer.from(statementText(told)), key).toString('hex')).toBe(
      'd79364d9593fd7041db58621b0308e0b8b89c22db85ac84ffb5d45f2140439092a6851a5a0e1c986ba31113bcdc9c55247be1175b3ddf10897943c45c1d7140a',
    )
  })
  test.each(Object.keys(told).filter((k) => k !== 'v'))('another %s is another text', (member) => {
    expect(statementText({ ...told, [member]: 'x' })).not.toBe(statementText(told))
  })
})

describe('the contents', () => {
  const run = begunRun(
    {
      plan: 'P3',
      revision: 1,
      tolerance: { value: 0.5, unit: '%' } as never,
      inputRange: { low: 0, high: 85, unit: 'bar' },
      outputRange: { low: 0, high: 85, unit: 'bar' },
      equipment: ['018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0009'],
      U_pct: 0,
    },
    told.by,
    told.at,
  )
  const around = { document: 'a'.repeat(64), instruments: [{ serial: 'GS-PC-011', dueOn: '2027-03-01' }] }
  const of = contentsText(run, around)
  test('of the same run are the same, whatever the order of its members', () => {
    expect(contentsText(Object.fromEntries(Object.entries(run).reverse()) as typeof run, around)).toBe(of)
  })
  test.each([
    ['a reading', { ...run, asFound: { 0: { pv: { value: 1, typed: '1' } } } }, around],
    ['who began it', { ...run, startedBy: told.loop }, around],
    ['the document', run, { ...around, document: 'b'.repeat(64) }],
    ['a certificate', run, { ...around, instruments: [{ serial: 'GS-PC-011', dueOn: '2028-03-01' }] }],
  ])('with another %s are others', (_, another, beside) => {
    expect(contentsText(another, beside)).not.toBe(of)
  })
})

describe('the contents of a procedure', () => {
  const around = { document: 'a'.repeat(64), instruments: [{ serial: 'GS-PC-011', dueOn: '2027-03-01' }] }
  const job = beginJob('sensor-trim', contextFor('gauge'), deviceFor('gauge', 7, { g: 0.02 }))
  perform(job)
  const { run } = job
  const of = procedureContentsText(run, around)
  const changed = (i: number, by: object): ProcedureRun => ({
    ...run,
    done: run.done.map((d, n) => (n === i ? { ...d, ...by } : d)),
  })
  const reading = run.done.findIndex((d) => d.step.kind === 'read')
  test('are of a run with readings', () => {
    expect(reading).toBeGreaterThan(0)
    expect(of).toContain(run.done[reading]?.step.id)
  })
  test.each<[string, ProcedureRun]>([
    ['a reading', changed(reading, { values: { pv: 1 } })],
    ['who did a step', changed(0, { by: 'somebody' })],
    ['when', changed(1, { at: '2026-11-25T23:00:00.000Z' })],
    ['a note', changed(2, { note: 'all is well' })],
    ['a gate passed over', changed(reading, { overruled: { gates: ['still'], reason: 'no time' } })],
    ['a step less', { ...run, done: run.done.slice(1) }],
    ['how it ended', { ...run, state: 'aborted' }],
    ['how it was begun', { ...run, started: { ...run.started, withDevice: !run.started.withDevice } }],
    ['who signed before', { ...run, signatures: [{ as: 'technician', by: 'wren', at: '', statement: '' }] }],
  ])('with another %s are others', (_, another) => {
    expect(procedureContentsText(another, around)).not.toBe(of)
  })
  test('with another certificate are others', () => {
    expect(
      procedureContentsText(run, { ...around, instruments: [{ serial: 'GS-PC-011', dueOn: '2028-03-01' }] }),
    ).not.toBe(of)
  })
})
