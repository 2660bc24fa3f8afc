import type { CertificateFile } from '@calm/contract/certificate-file'
import { create } from 'xmlbuilder2'
import { written } from './si-units.ts'

/**
 * A certificate in the open XML form of digital calibration certificates that metrology bodies publish.
 *
 * Its elements, their order and what has to be there follow the published description of version 3.2.1 and, for
 * numbers and units, of D-SI. The published schema is not part of this program: files are not held against it here.
 */
const VERSION = '3.2.1'
const DCC = 'https://ptb.de/dcc'
const SI = 'https://ptb.de/si'

type Tree = Readonly<Record<string, unknown>>
const content = (text: string): Tree => ({ 'dcc:content': { '@lang': 'en', '#': text } })
const named = (text: string): Tree => ({ 'dcc:name': content(text) })
const orDash = (text: string): string => (text === '' ? '-' : text)
const identified = (value: string, name: string, issuer: string): Tree => ({
  'dcc:identification': { 'dcc:issuer': issuer, 'dcc:value': value, ...named(name) },
})

/** No digits that only the reckoning made. */
const digits = (x: number): string => String(Number(x.toPrecision(12)))

interface Series {
  readonly name: string
  readonly unit: string
  readonly values: readonly (number | null)[]
  /** Expanded uncertainty in the same unit, k = 2. */
  readonly U?: number
}
/** A row of readings as numbers with a unit; none where one of them was not read, or its unit has no word there. */
function quantity({ name, unit, values, U }: Series): Tree | null {
  const w = written(unit)
  if (!w || values.length === 0 || values.some((v) => v === null)) return null
  return {
    ...named(name),
    'si:realListXMLList': {
      'si:valueXMLList': values.map((v) => digits(w.value(v ?? 0))).join(' '),
      'si:unitXMLList': w.unit,
      ...(U === undefined
        ? {}
        : {
            'si:expandedUncXMLList': {
              'si:uncertaintyXMLList': String(U),
              'si:coverageFactorXMLList': '2',
              'si:coverageProbabilityXMLList': '0.95',
            },
          }),
    },
  }
}

function result(d: CertificateFile, title: string, phase: NonNullable<CertificateFile['asFound']>): Tree {
  const column = (of: 'applied' | 'transmitter' | 'current_mA' | 'controller') =>
    phase.points.map((p) => p[of]?.value ?? null)
  const series: Series[] = [
    { name: 'Applied', unit: d.ranges.input.unit, values: column('applied') },
    { name: 'Transmitter', unit: d.ranges.input.unit, values: column('transmitter') },
    { name: 'Loop current', unit: 'mA', values: column('current_mA') },
    { name: 'Controller', unit: d.ranges.output.unit, values: column('controller') },
    {
      name: 'Error of the loop, of span',
      unit: '%',
      values: phase.points.map((p) => p.error_pctSpan),
      ...(d.uncertainty_pctSpan === null ? {} : { U: d.uncertainty_pctSpan }),
    },
    { name: 'Tolerance, of span', unit: '%', values: phase.points.map((p) => p.tolerance_pctSpan) },
  ]
  return {
    ...named(title),
    'dcc:description': content(phase.says),
    'dcc:data': { 'dcc:list': { 'dcc:quantity': series.flatMap((s) => quantity(s) ?? []) } },
  }
}

/** @returns the file as text; null where the plant has not said in which country it is, which the form demands. */
export function certificateXml(d: CertificateFile): string | null {
  const { country } = d.plant
  if (country === '') return null
  const days = [d.begun, ...d.signatures.map((s) => s.at)].map((at) => at.slice(0, 10)).sort()
  const place = {
    'dcc:location': {
      'dcc:countryCode': country,
      ...(d.plant.address === '' ? {} : { 'dcc:further': content(d.plant.address) }),
    },
  }
  const plant = { ...named(orDash(d.plant.name)), ...place }
  const phases = [
    d.asFound && result(d, 'As found', d.asFound),
    d.asLeft && result(d, 'As left', d.asLeft),
  ].filter((p) => p !== null)
  const people = d.signatures.length > 0 ? d.signatures : [{ as: 'technician', by: d.by }]
  const tree = {
    'dcc:digitalCalibrationCertificate': {
      '@xmlns:dcc': DCC,
      '@xmlns:si': SI,
      '@schemaVersion': VERSION,
      'dcc:administrativeData': {
        'dcc:dccSoftware': { 'dcc:software': { ...named('Calm Loop'), 'dcc:release': '1' } },
        'dcc:coreData': {
          'dcc:countryCodeISO3166_1': country,
          'dcc:usedLangCodeISO639_1': 'en',
          'dcc:mandatoryLangCodeISO639_1': 'en',
          'dcc:uniqueIdentifier': d.record.run,
          'dcc:identifications': identified(d.number, 'Number of the certificate', 'calibrationLaboratory'),
          'dcc:beginPerformanceDate': days[0],
          'dcc:endPerformanceDate': days.at(-1),
          'dcc:performanceLocation': 'customer',
        },
        'dcc:items': {
          'dcc:item': {
            ...named(`${d.loop.tag}, ${d.loop.service}`),
            ...(d.device.maker === '' ? {} : { 'dcc:manufacturer': named(d.device.maker) }),
            ...(d.device.model === '' ? {} : { 'dcc:model': d.device.model }),
            'dcc:identifications': {
              'dcc:identification': [
                { 'dcc:issuer': 'owner', 'dcc:value': d.loop.tag, ...named('Tag') },
                ...(d.device.serial === ''
                  ? []
                  : [{ 'dcc:issuer': 'manufacturer', 'dcc:value': d.device.serial, ...named('Serial') }]),
              ],
            },
          },
        },
        'dcc:calibrationLaboratory': { 'dcc:contact': plant },
        'dcc:respPersons': {
          'dcc:respPerson': people.map((s, i) => ({
            'dcc:person': named(orDash(s.by)),
            'dcc:role': s.as === 'technician' ? 'performed by' : 'reviewed by',
            ...(i === people.length - 1 ? { 'dcc:mainSigner': 'true' } : {}),
          })),
        },
        'dcc:customer': plant,
        'dcc:statements': {
          'dcc:statement': [
            { ...named('Overall'), 'dcc:declaration': content(d.overall.says) },
            { ...named('Decision rule'), 'dcc:declaration': content(`${d.rule} Tolerance ${d.tolerance}.`) },
          ],
        },
      },
      'dcc:measurementResults': {
        'dcc:measurementResult': {
          ...named(`Verification of ${d.loop.tag}`),
          'dcc:usedMethods': {
            'dcc:usedMethod': {
              ...named(d.plan),
              ...(d.circumstances.procedure === ''
                ? {}
                : { 'dcc:description': content(d.circumstances.procedure) }),
            },
          },
          ...(d.instruments.length === 0
            ? {}
            : {
                'dcc:measuringEquipments': {
                  'dcc:measuringEquipment': d.instruments.map((e) => ({
                    ...named(e.name),
                    'dcc:identifications': {
                      'dcc:identification': [
                        { 'dcc:issuer': 'manufacturer', 'dcc:value': orDash(e.serial), ...named('Serial') },
                        {
                          'dcc:issuer': 'calibrationLaboratory',
                          'dcc:value': orDash(e.certificate),
                          ...named('Certificate'),
                        },
                      ],
                    },
                  })),
                },
              }),
          'dcc:results': { 'dcc:result': phases },
        },
      },
    },
  }
  return create({ version: '1.0', encoding: 'UTF-8' }, tree).end({ prettyPrint: true })
}
