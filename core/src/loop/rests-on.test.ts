import { describe, expect, test } from 'vitest'
import type { Finding } from '../finding.ts'
import { FAMILIES, familyOf } from '../family/index.ts'
import { shownSettings, valuesOf, type Typed } from '../quantity/setting.ts'
import { factsOf } from './facts.ts'
import { provedFindings, restsOn } from './rests-on.ts'
import { judgeSetUp } from './set-up-findings.ts'

const look = (id: string, values: Typed, unconfirmed: string[] = []) => {
  const facts = factsOf({ family: id, setUp: { values }, path: [], tolerance: null, unconfirmed, trips: [] })
  const result = judgeSetUp(facts)
  if (!result) throw new Error(id)
  return { facts, result, rests: restsOn(facts, result) }
}
/** Every entry that is asked for, typed as it stands. */
const allTyped = (id: string, change: Typed = {}): Typed => {
  const family = familyOf(id)
  if (!family) throw new Error(id)
  const values = valuesOf(family.settings, change)
  return Object.fromEntries(
    shownSettings(family.settings, values as Typed).map((s) => [s.name, change[s.name] ?? s.standard]),
  )
}
const families = FAMILIES.filter((f) => f.id !== 'switch').map((f) => [f.id] as const)

describe.each(families)('%s', (id) => {
  test('what nobody entered is marked wherever it shows', () => {
    const { result, rests } = look(id, {})
    expect(rests.assumed.length).toBeGreaterThan(0)
    // A line that is the same whatever is entered rests on nothing; many rest on something.
    expect(rests.sheet.size).toBeGreaterThanOrEqual(result.sheet.length / 3)
    for (const told of [...rests.rows.values(), ...rests.sheet.values()])
      expect(told.assumed.length + told.stopped.length).toBeGreaterThan(0)
  })
  test('nothing is called good by an entry that nobody confirmed', () => {
    const { result, rests, facts } = look(id, {})
    const told = provedFindings(result.findings, rests)
    for (const f of told.filter((x) => x.severity === 'good'))
      expect(f.where.filter((name) => facts.entries[name] === 'assumed')).toEqual([])
    const grave = (list: readonly Finding[]) =>
      list.filter((f) => f.severity !== 'good' && f.severity !== 'note').map((f) => [f.code, f.severity])
    expect(grave(told)).toEqual(grave(result.findings))
    const typed = look(id, allTyped(id))
    expect(provedFindings(typed.result.findings, typed.rests)).toEqual(typed.result.findings)
  })
  test('with everything entered nothing is assumed', () => {
    const { rests } = look(id, allTyped(id))
    expect(rests.assumed).toEqual([])
    expect([...rests.sheet.values()].flatMap((x) => x.assumed)).toEqual([])
  })
})

describe('a stop by what nobody typed says so', () => {
  const said = (values: Typed) => {
    const { result, rests } = look('switch', values)
    return provedFindings(result.findings, rests).find((f) => f.code === 'MEANING_REVERSED')
  }
  test('an NC contact against a meaning that stands there by itself', () => {
    expect(said({ contact: 'nc' })).toMatchObject({
      severity: 'stop',
      says: expect.stringMatching(/Only assumed here: “.+”; confirm it/) as string,
    })
  })
  test('against one that was typed nothing is assumed', () => {
    expect(said({ contact: 'nc', meaning1: 'sensed' })?.says).not.toMatch(/assumed/)
  })
})

describe('clamp-on', () => {
  test('the bore rests on the wall, the flow at 20 mA does not', () => {
    const { rests } = look('clamp-on', allTyped('clamp-on', { by: 'od' }), ['setUp.values.wall_mm'])
    expect(rests.assumed.map((s) => s.name)).toEqual(['wall_mm'])
    expect(rests.rows.get('Bore')?.assumed).toEqual(['Wall'])
    expect(rests.sheet.get('Pipe wall')?.assumed).toEqual(['Wall'])
    expect(rests.sheet.get('Flow at 20 mA')).toBeUndefined()
  })
  test('a choice that nobody made counts as well', () => {
    const typed = Object.fromEntries(Object.entries(allTyped('clamp-on')).filter(([n]) => n !== 'material'))
    const { rests } = look('clamp-on', typed)
    expect(rests.sheet.get('Pipe material')?.assumed).toEqual(['Pipe material'])
  })
  test('a refused entry makes what rests on it unknown', () => {
    const { facts, rests } = look('clamp-on', allTyped('clamp-on', { by: 'od', t_C: 900 }))
    expect(facts.entries['t_C']).toBe('refused')
    expect(rests.rows.get('Density')?.refused).toEqual(['Temperature'])
    expect(rests.sheet.get('Sound speed of the fluid')?.refused).toEqual(['Temperature'])
    expect(rests.sheet.get('Pipe wall')).toBeUndefined()
  })
  test('beside a refused entry the assumed ones stay marked', () => {
    const { rests } = look('clamp-on', allTyped('clamp-on', { by: 'od', od_mm: 5 }), ['setUp.values.liner'])
    expect(rests.sheet.get('Pipe outside diameter')?.refused).toEqual(['Outside diameter'])
    expect(rests.sheet.get('Liner')?.assumed).toEqual(['Liner'])
  })
})

test('a value that is judged “stop” is marked where it stands', () => {
  const { result, rests } = look('coriolis', {
    ...allTyped('coriolis'),
    lightPeriod_certificate: '9766.284',
    heavyPeriod_certificate: '8243.517',
  })
  expect(result.findings.find((f) => f.code === 'PERIODS_SWAPPED')?.severity).toBe('stop')
  const marked = [...rests.sheet].filter(([, told]) => told.stopped.length > 0)
  expect(marked.length).toBeGreaterThan(0)
})

test('a judgement that rests on an assumed accuracy is no longer good, and says on what', () => {
  const values = { duty: 'gauge', lrv_kPa: 0, urv_kPa: 600, url_kPa: 1000 }
  const { result, rests } = look('pressure', values)
  const good = result.findings.find((f) => f.severity === 'good')
  expect(good?.says).toMatch(/^The range fits the cell/)
  expect(provedFindings(result.findings, null).map((f) => f.severity)).not.toContain('good')
  const told = provedFindings(result.findings, rests).find((f) => f.code === good?.code)
  expect(told?.severity).toBe('note')
  expect(told?.says).toMatch(/Not proved: it rests on “Accuracy a, % of span”.*, which nobody confirmed\.$/)
})
