import { CertificateFile } from '@calm/contract/certificate-file'
import { convert } from 'xmlbuilder2'
import { describe, expect, test } from 'vitest'
import { certificateXml } from './certificate-xml.ts'
import { written } from './si-units.ts'

const point = (i: number, applied: number, shown: number): object => ({
  point: i,
  direction: 'up',
  applied: { value: applied, asTyped: String(applied) },
  transmitter: null,
  current_mA: { value: 4 + 1.6 * shown, asTyped: '' },
  controller: { value: shown, asTyped: '' },
  error_pctSpan: 10 * (shown - applied),
  tolerance_pctSpan: 0.5,
})
const file = (more: object = {}): CertificateFile =>
  CertificateFile.parse({
    format: 'calm-loop-certificate',
    version: 1,
    number: 'AB12',
    plant: { name: 'Brine & Works', address: 'Salt Road 1', country: 'DE' },
    loop: { tag: 'PT-1', service: 'Feed <1>', area: '', type: 'pressure' },
    device: { maker: 'made up', model: '', serial: '0042' },
    circumstances: { order: '', place: '', ambient: '', procedure: 'P-14' },
    begun: '2026-03-02T08:00:00.000Z',
    by: 'Wren',
    ranges: { input: { low: 0, high: 10, unit: 'bar(g)' }, output: { low: 0, high: 10, unit: 'bar(g)' } },
    plan: '3 points up',
    appliedAs: '',
    tolerance: '0.5 % of span',
    rule: 'Simple acceptance.',
    overall: { verdict: 'good', says: 'In tolerance as found.', nextDue: '2027-03-02' },
    asFound: { says: 'In tolerance.', points: [point(1, 0, 0.01), point(2, 5, 5.02), point(3, 10, 10.01)] },
    adjustments: [],
    asLeft: null,
    uncertainty_pctSpan: 0.12,
    instruments: [
      {
        name: 'Gauge',
        serial: 'G-1',
        uncertainty: '',
        certificate: 'C-9',
        certifiedOn: '2026-01-01',
        dueOn: '2027-01-01',
      },
    ],
    signatures: [
      { as: 'technician', by: 'Wren', at: '2026-03-02T09:00:00.000Z', statement: 'Done.' },
      { as: 'reviewer', by: 'Heron', at: '2026-03-04T09:00:00.000Z', statement: 'Checked.' },
    ],
    record: { run: '3e9b7f0e-0000-4000-8000-000000000001', seq: 9, sha256: 'ab', proof: null },
    ...more,
  })
interface Found {
  readonly [name: string]: Found & string
}
const root = (d: CertificateFile): Found =>
  (convert(certificateXml(d) ?? '', { format: 'object' }) as unknown as Found)[
    'dcc:digitalCalibrationCertificate'
  ] as Found

describe('a certificate in the open XML form', () => {
  test('its parts stand in the order of the published description, with what has to be there', () => {
    const d = root(file())
    expect(Object.keys(d).filter((k) => !k.startsWith('@'))).toEqual([
      'dcc:administrativeData',
      'dcc:measurementResults',
    ])
    expect(Object.keys(d['dcc:administrativeData'] ?? {})).toEqual([
      'dcc:dccSoftware',
      'dcc:coreData',
      'dcc:items',
      'dcc:calibrationLaboratory',
      'dcc:respPersons',
      'dcc:customer',
      'dcc:statements',
    ])
    expect(d['dcc:administrativeData']?.['dcc:coreData']).toMatchObject({
      'dcc:countryCodeISO3166_1': 'DE',
      'dcc:uniqueIdentifier': '3e9b7f0e-0000-4000-8000-000000000001',
      'dcc:beginPerformanceDate': '2026-03-02',
      'dcc:endPerformanceDate': '2026-03-04',
    })
    expect(d['dcc:administrativeData']?.['dcc:respPersons']?.['dcc:respPerson']).toMatchObject([
      { 'dcc:role': 'performed by' },
      { 'dcc:role': 'reviewed by', 'dcc:mainSigner': 'true' },
    ])
  })
  test('readings are numbers with units of the SI, and the error has its uncertainty; what was not read is not there', () => {
    const { 'dcc:result': result } = root(file())['dcc:measurementResults']?.['dcc:measurementResult']?.[
      'dcc:results'
    ] as Found
    const quantities = (result?.['dcc:data']?.['dcc:list']?.['dcc:quantity'] ?? []) as unknown as Found[]
    expect(
      quantities.map((q) => [
        q['dcc:name']?.['dcc:content']?.['#'],
        q['si:realListXMLList']?.['si:valueXMLList'],
        q['si:realListXMLList']?.['si:unitXMLList'],
      ]),
    ).toEqual([
      ['Applied', '0 5 10', '\\bar'],
      ['Loop current', '4.016 12.032 20.016', '\\milli\\ampere'],
      ['Controller', '0.01 5.02 10.01', '\\bar'],
      ['Error of the loop, of span', '0.1 0.2 0.1', '\\percent'],
      ['Tolerance, of span', '0.5 0.5 0.5', '\\percent'],
    ])
    expect(quantities[3]?.['si:realListXMLList']?.['si:expandedUncXMLList']).toEqual({
      'si:uncertaintyXMLList': '0.12',
      'si:coverageFactorXMLList': '2',
      'si:coverageProbabilityXMLList': '0.95',
    })
  })
  test('signs that mean something to XML are text', () => {
    const text = certificateXml(file()) ?? ''
    expect(text).toContain('Brine &amp; Works')
    expect(text).toContain('Feed &lt;1&gt;')
  })
  test('without a country there is none: the form demands it', () => {
    expect(certificateXml(file({ plant: { name: 'x', address: '', country: '' } }))).toBeNull()
  })
  test('an unsigned one names who did it; without instruments none are told', () => {
    const text = certificateXml(file({ signatures: [], instruments: [], uncertainty_pctSpan: null })) ?? ''
    expect(text).toContain('performed by')
    expect(text).not.toMatch(/measuringEquipment|expandedUnc/)
  })
  const units: readonly [string, string | null, number][] = [
    ['degC', '\\degreecelsius', 1],
    ['m3/h', '\\metre\\tothe{3}\\per\\hour', 1],
    ['kPa(g)', '\\kilo\\pascal', 1],
    ['psi', '\\pascal', 6894.757293168],
    ['degF', '\\degreecelsius', -17.2222222222],
    ['inH2O@20C', '\\pascal', 248.64229358437],
    ['pH', null, 1],
  ]
  test.each(units)('%s is written as %s', (symbol, unit, one) => {
    const w = written(symbol)
    expect(w?.unit ?? null).toBe(unit)
    expect(w?.value(1) ?? 1).toBeCloseTo(one, 6)
  })
})
