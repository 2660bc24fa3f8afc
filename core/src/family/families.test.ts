import { expect, describe, test } from 'vitest'
import { entryMistakes } from './define.ts'
import { NOT_AT_WORK } from './family.ts'
import { guessFamily } from './guess.ts'
import { familyOf, FAMILIES } from './index.ts'
import { compute, refused, row, codes } from './test/through-form.ts'
import { labelOf, settingProblem } from '../quantity/setting.ts'
import { isUnitSymbol } from '../quantity/units.ts'

describe('every family', () => {
  test.each(FAMILIES.map((f) => [f.id, f] as const))(
    '%s: defaults are possible, names stand once, the sheet is filled',
    (_id, f) => {
      expect(entryMistakes(f.settings)).toEqual([])
      for (const s of f.settings) expect([s.name, settingProblem(s, s.standard)]).toEqual([s.name, null])
      const result = f.compute({}, NOT_AT_WORK)
      expect(result.rows.length).toBeGreaterThan(2)
      expect(result.sheet.length).toBeGreaterThan(3)
      const endless = result.rows.filter((r) => typeof r.value === 'number' && !Number.isFinite(r.value))
      expect(endless.map((r) => r.label)).toEqual([])
      expect(f.needs.kit.length).toBeGreaterThan(0)
      expect(f.needs.cautions.length).toBeGreaterThan(0)
      // A picture lies within its own frame.
      const d = result.drawing
      for (const s of d?.shapes ?? [])
        if (s.kind === 'line')
          for (const [x, y] of s.points) {
            expect(x).toBeGreaterThanOrEqual(d?.left ?? 0)
            expect(x).toBeLessThanOrEqual((d?.left ?? 0) + (d?.width ?? 0))
            expect(y).toBeGreaterThanOrEqual((d?.top ?? 0) - 1e-9)
            expect(y).toBeLessThanOrEqual((d?.top ?? 0) + (d?.height ?? 0))
          }
    },
  )
  test('a loop’s words find its family', () => {
    expect(guessFamily('flow, clamp-on gas', '4-20 mA').family).toBe('clamp-on')
    expect(guessFamily('flow, Coriolis', '4-20 mA HART').family).toBe('coriolis')
    expect(guessFamily('flow, thermal', '').family).toBe('thermal')
    expect(guessFamily('flow, orifice', '').family).toBe('orifice')
    expect(guessFamily('level, ultrasonic', '').family).toBe('level-from-above')
    expect(guessFamily('level, radar', '').family).toBe('level-from-above')
    expect(guessFamily('level, guided wave', '').family).toBe('guided-wave')
    expect(guessFamily('differential pressure', '').family).toBe('pressure')
    expect(guessFamily('temperature, Pt100', '').family).toBe('temperature')
    expect(guessFamily('pH', '').family).toBe('ph')
    expect(guessFamily('switch, float', 'dry contact NC').family).toBe('switch')
    expect(guessFamily('weight', '').family).toBeNull()
    expect(familyOf('flux')).toBeNull()
  })
  test('unknown entries and impossible values are named at their place', () => {
    expect(refused('clamp-on', { liner_mm: -2, nps: '13', colour: 'red' }).map(([where]) => where)).toEqual([
      'liner_mm',
      'nps',
      'colour',
    ])
  })
})

describe('thermal and orifice through their forms', () => {
  test('depth mark, force and nozzle check', () => {
    const r = compute('thermal', { p0_list: '305 505 705 905', indicated_list: '20,30 33.62 46.75 60.10' })
    expect(row(r, 'Mark on the stem')).toBeCloseTo(460.5, 6)
    expect(r.tables?.[0]?.rows).toEqual([
      ['305', '20.2111', '20.3', '0.4398', '1.5937', 'passes'],
      ['505', '33.5474', '33.62', '0.2163', '1.3577', 'passes'],
      ['705', '46.9119', '46.75', '-0.3450', '1.2558', 'passes'],
      ['905', '60.3011', '60.1', '-0.3334', '1.1990', 'passes'],
    ])
    expect(r.charts?.[0]?.series.map((x) => x.name)).toEqual(['limit', 'limit below', 'now'])
    expect(codes(r)).toEqual(expect.arrayContaining(['RETRACTOR', 'NOZZLE_PASS', 'OXYGEN']))
    expect(codes(compute('thermal', { p0_list: '150', after_kPa: 118 }))).toContain('NOT_CHOKED')
    expect(codes(compute('thermal', { p0_list: '505', indicated_list: '33 34' }))).toContain('NOZZLE_COUNT')
    expect(codes(compute('thermal', { p0_list: '705', indicated_list: '50' }))).toContain('NOZZLE_FAIL')
    expect(
      codes(compute('thermal', { p0_list: '705', indicated_list: '46.75', baseline_list: '0.4' })),
    ).toContain('NOZZLE_ALERT')
    const yearly = compute('thermal', { yearly_list: '0.10 0.28 0.61 0.79' })
    expect(yearly.findings.find((f) => f.code === 'TREND')?.says).toMatch(/0.24 % a year.* 3.812 years/)
    expect(codes(compute('thermal', { probe_mm: 460 }))).toEqual(['DEPTH'])
  })
  test('the root is judged by the signal path alone', () => {
    const finding = { code: 'SQRT_TWICE', severity: 'stop', where: [], says: 'Twice.' } as const
    const root = { takers: ['transmitter', 'controller'] as const, finding }
    const r = compute('orifice', {}, { root })
    expect(r.findings).toContainEqual(finding)
    expect(r.sheet.find((l) => l.says === 'Square root')?.value).toBe('in the transmitter and the controller')
    expect(codes(compute('orifice', {}))).toEqual([])
  })
  test('flow at 18.7 kPa is the worked example’s', () => {
    const r = compute('orifice', { span_kPa: 18.7, gauge_kPa: 420 - 101.325 })
    expect(row(r, 'Flow at the span')).toBeCloseTo(42.0122, 3)
    expect(codes(compute('orifice', { d_mm: 110 }))).toEqual(['BORE'])
  })
})

describe('names of entries', () => {
  test('no label is longer than its field is wide; the rest of a name stands below it', () => {
    const long = FAMILIES.flatMap((f) =>
      f.groups.flatMap((g) =>
        g.settings
          .filter((s) => (s.kind === 'number' || s.kind === 'choice') && !g.columns)
          .map((s) =>
            s.kind === 'number' && s.unit !== '' && !isUnitSymbol(s.unit)
              ? `${labelOf(s.title).label}, ${s.unit}`
              : labelOf(s.title).label,
          )
          .filter((label) => label.length > 27),
      ),
    )
    expect(long).toEqual([])
  })
  test.each([
    ['Wall', 'Wall', null],
    ['Cable (0: not told)', 'Cable', '0: not told'],
    ['Velocity (full scale, at base; 0: none)', 'Velocity', 'full scale, at base; 0: none'],
    ['Rail (mm) of the pair', 'Rail (mm) of the pair', null],
  ])('%s', (title, label, hint) => expect(labelOf(title)).toEqual({ label, hint }))
})
