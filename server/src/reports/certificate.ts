import { errorChart } from '@calm/core/verify/error-chart'
import { sayDayAs, sayInstantAs } from '@calm/core/quantity/date-form'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { sayLaw } from '@calm/core/record/applied-law'
import { claimedU_pct } from '@calm/core/record/judge-run'
import { readings } from '@calm/core/record/readings'
import { saySignaturesMissing } from '@calm/core/record/signing/asked'
import type { Phase } from '@calm/core/record/kinds/reading-values'
import { combine } from '@calm/core/statistics/budget'
import { budgetTable } from '@calm/core/verify/comparison-budget'
import { sayPlan } from '@calm/core/verify/plan'
import { sayTolerance } from '@calm/core/verify/tolerance'
import { sayDecision } from '@calm/core/verify/decision'
import type { Judgement } from '@calm/core/verify/verdict'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import type { CertificateData } from './certificate-data.ts'
import { certificateFile, certificateNumber } from './certificate-file.ts'
import { certificateXml } from './certificate-xml.ts'
import { chartSvg } from './chart-svg.ts'
import { pdfLibrary } from './fonts.ts'
import { signatureTable } from './signatures.ts'
import { facts, figure, heading, instruments, mono, printed, recordEnd, rule } from './sheet-parts.ts'

/** One decimal sign on a paper: a comma that stands between two digits is one. */
const onePoint = (typed: string): string =>
  typed.includes('.') ? typed : typed.replace(/(\d),(\d)/, '$1.$2')

function readingsContent(data: CertificateData, phase: Phase, judgement: Judgement): Content {
  const { inputRange, outputRange } = data.run.started
  const rows = phase === 'asLeft' && data.run.leftAsFound ? data.run.asFound : data.run[phase]
  const cell = (index: number, column: 'applied' | 'pv' | 'loopCurrent_mA' | 'controller') =>
    mono(onePoint(rows[index]?.[column]?.typed ?? ''), { alignment: 'right' })
  return {
    layout: rule,
    fontSize: 8,
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [26, 44, '*', 82, 50, 82, 74, 54],
      body: [
        [
          'Point',
          'Direction',
          `Applied\n${printedUnit(inputRange.unit)}`,
          `Transmitter\n${printedUnit(inputRange.unit)}`,
          'Loop\nmA',
          `Controller\n${printedUnit(outputRange.unit)}`,
          'Error\n% of span',
          'Tolerance\n% of span',
        ].map((text, i): TableCell => ({ text, bold: true, alignment: i > 1 ? 'right' : 'left' })),
        ...readings(data.run, phase).map((r): TableCell[] => {
          const e = judgement.points.find((p) => p.index === r.index)
          const out = e?.withinTolerance === false
          return [
            mono(String(r.index + 1)),
            r.direction === 'up' ? 'rising' : 'falling',
            cell(r.index, 'applied'),
            cell(r.index, 'pv'),
            cell(r.index, 'loopCurrent_mA'),
            cell(r.index, 'controller'),
            mono(
              e?.loop_pct == null
                ? ''
                : `${e.loop_pct > 0 ? '+' : ''}${roundText(e.loop_pct, 3)}${out ? ' out' : ''}`,
              { alignment: 'right', bold: out },
            ),
            mono(e ? roundText(e.allowed_pct, 3) : '', { alignment: 'right' }),
          ]
        }),
      ],
    },
  }
}

function signatures(data: CertificateData): Content {
  const { run, names } = data
  if (run.signatures.length === 0)
    return { text: 'Not signed: this is a draft.', bold: true, margin: [0, 4, 0, 0] }
  const missing = saySignaturesMissing(run.signatures.length, data.signaturesAsked)
  const table = signatureTable(run.signatures, (by) => names[by] ?? '', data.stationery.dates)
  return missing === null ? table : { stack: [table, { text: missing, bold: true, margin: [0, 4, 0, 0] }] }
}

/** That it stands in the plant's record, for who reads the paper; the way there is in the data inside. */
const sayProof = ({ proof, stationery }: CertificateData): string =>
  proof === null
    ? 'Not sealed into the plant’s record yet when this was printed.'
    : `Entry ${proof.at + 1} of ${proof.head.size} in the plant’s record, head of ${sayInstantAs(proof.head.at, stationery.dates)} signed by key ${proof.head.key.slice(0, 16)}. The proof is in the data inside this file.`

/** How sure the comparison was, line by line; nothing where it was typed or not stated. */
function uncertainty({ run }: CertificateData): Content[] {
  const told = run.started.budget
  if (!told || claimedU_pct(run) === 0) return []
  const table = budgetTable(told.lines, combine(told.lines))
  const how =
    told.method === 'formula'
      ? 'By the law of propagation (JCGM 100)'
      : `By trials (JCGM 101, seed ${told.seed ?? 0}), as the formula was not borne out`
  return [
    {
      unbreakable: true,
      stack: [
        heading('Uncertainty of the comparison'),
        {
          layout: rule,
          fontSize: 8,
          table: {
            headerRows: 1,
            widths: ['*', 90, 80, 70, 40],
            body: [
              table.columns.map((text, i): TableCell => ({
                text,
                bold: true,
                alignment: i > 2 ? 'right' : 'left',
              })),
              ...table.rows.map((row) =>
                row.map((text, i): TableCell =>
                  i === 0 || i === 2
                    ? i === 0
                      ? asWritten(text)
                      : text
                    : mono(text, { alignment: i > 2 ? 'right' : 'left' }),
                ),
              ),
            ],
          },
        },
        {
          text: `${how}: U = ${sayNumber(claimedU_pct(run), 2)} % of span.${told.missing.length > 0 ? ` Not in it: ${told.missing.join(' ')}` : ''}`,
          fontSize: 7.5,
          margin: [0, 2, 0, 0],
        },
      ],
    },
  ]
}

/** What was typed for the certificate; nothing of it where nothing was. */
function told({ run }: CertificateData): Content[] {
  const c = run.started.circumstances
  const rows: readonly (readonly [string, string])[] = [
    ['Maker', c?.maker ?? ''],
    ['Model', c?.model ?? ''],
    ['Serial', c?.serial ?? ''],
    ['Order', c?.order ?? ''],
    ['Place', c?.place ?? ''],
    ['Ambient', c?.ambient ?? ''],
    ['Procedure', c?.procedure ?? ''],
  ]
  const given = rows.filter(([, value]) => value !== '').map(([k, value]) => [k, asWritten(value)] as const)
  if (given.length === 0) return []
  const half = Math.ceil(given.length / 2)
  return [{ columns: [facts(given.slice(0, half)), facts(given.slice(half))] }]
}

/** What a reader must know before the verdict: deviations from the recorded loop, a record from elsewhere. */
function caveats(data: CertificateData): Content[] {
  const { deviations, run, foreign, outOfOrder, recordedLate, stationery } = data
  const lines = [
    ...(deviations.length > 0
      ? [
          `Deviation from the recorded loop: ${deviations.map((d) => d.says).join(' ')} Reason: ${asWritten(run.started.deviation?.reason ?? 'none was stated.')}`,
        ]
      : []),
    ...(foreign
      ? [
          'Foreign record: it came with a package. Names marked foreign are the package’s word; nobody here vouches for them.',
        ]
      : []),
    ...(recordedLate === null
      ? []
      : [
          `Recorded on ${sayInstantAs(recordedLate, stationery.dates)}, later than the day on which it is said to have begun.`,
        ]),
    ...(outOfOrder > 0 ? [`${outOfOrder} event(s) were recorded out of the order of their times.`] : []),
  ]
  return lines.map((text) => ({ text, bold: true, margin: [0, 6, 0, 0] as [number, number, number, number] }))
}

/** The certificate of a verification. */
export async function certificatePdf(data: CertificateData): Promise<Buffer> {
  const { run, document: loop, asFound, asLeft, overall } = data
  const { inputRange, outputRange, tolerance } = run.started
  const { dates } = data.stationery
  const U_pct = claimedU_pct(run)
  const file = certificateFile(data)
  const xml = certificateXml(file)
  const range = (r: typeof inputRange) => `${sayNumber(r.low)} to ${sayNumber(r.high)} ${printedUnit(r.unit)}`
  const verdict = (j: Judgement | null, none: string): Content =>
    j
      ? {
          stack: [
            { text: j.sentence, bold: j.class === 'FAIL' },
            ...(j.open.length > 0
              ? j.open.slice(1).map((q): Content => ({ text: `Also ${q}` }))
              : [{ text: sayDecision(j.decision), margin: [0, 1, 0, 3] } satisfies Content]),
          ],
        }
      : { text: none }
  return pdfLibrary()
    .createPdf(
      printed(
        data,
        `${loop.tag} certificate`,
        asLeft ?? asFound,
        [
          ...(data.stationery.letterhead.name === ''
            ? []
            : [
                {
                  text: [
                    { text: asWritten(data.stationery.letterhead.name), bold: true },
                    data.stationery.letterhead.address === ''
                      ? ''
                      : asWritten(`, ${data.stationery.letterhead.address.replace(/\s*\n\s*/g, ', ')}`),
                  ],
                  margin: [0, 0, 0, 4],
                } satisfies Content,
              ]),
          { text: 'Certificate of verification', fontSize: 17, bold: true, margin: [0, 0, 0, 6] },
          {
            layout: rule,
            margin: [0, 0, 0, 8],
            table: {
              widths: ['*'],
              body: [
                [
                  {
                    stack: [
                      { text: overall.says, bold: true, fontSize: 12 },
                      {
                        text: `${overall.due === null ? 'No interval is set.' : `Next due: ${/^\d{4}-\d\d-\d\d$/.test(overall.due) ? sayDayAs(overall.due, dates) : overall.due}.`}${run.signatures.length === 0 ? ' Not signed: this is a draft.' : ''}`,
                      },
                    ],
                  },
                ],
              ],
            },
          },
          {
            columns: [
              facts([
                ['Certificate', certificateNumber(data.runId)],
                ['Loop', asWritten(`${loop.tag} (${loop.type})`)],
                ['Area', asWritten(loop.area)],
                ['Transmitter', range(inputRange)],
                ['Receiver', range(outputRange)],
                ['Test plan', sayPlan(run.started.plan)],
              ]),
              facts([
                ['Begun', sayInstantAs(run.startedAt, dates)],
                ['By', asWritten(data.names[run.startedBy] ?? '')],
                ['Tolerance', sayTolerance(tolerance, outputRange.unit)],
                [
                  'Decision rule',
                  `${run.started.rule === 'guarded' ? 'guard band' : 'simple acceptance'}; ${
                    U_pct > 0
                      ? `U = ${sayNumber(U_pct, 2)} % of span, k = ${sayNumber(run.started.budget?.k ?? 2, 4)}${run.started.budget ? '' : ', as stated by who began it'}`
                      : 'uncertainty not stated'
                  }`,
                ],
              ]),
            ],
          },
          ...told(data),
          ...(run.started.applies
            ? [{ text: sayLaw(run.started.applies, inputRange), margin: [0, 4, 0, 0] } satisfies Content]
            : []),
          ...caveats(data),
          heading('As found'),
          verdict(asFound, 'No readings.'),
          ...(asFound ? [readingsContent(data, 'asFound', asFound)] : []),
          heading('Adjustment'),
          ...(run.adjustments.length > 0
            ? run.adjustments.map((a): Content => ({
                text: `${asWritten(a.note)} (${asWritten(data.names[a.by] ?? '')}, ${sayInstantAs(a.at, dates)})`,
              }))
            : [{ text: run.leftAsFound ? 'Nothing was adjusted.' : 'None recorded.' }]),
          heading('As left'),
          ...(run.leftAsFound
            ? [{ text: 'Nothing was adjusted: the as-found readings stand as the as-left ones.' }]
            : [
                verdict(asLeft, 'Not read yet.'),
                ...(asLeft ? [readingsContent(data, 'asLeft', asLeft)] : []),
              ]),
          {
            unbreakable: true,
            stack: [
              heading('Error over the range, % of span'),
              figure(
                chartSvg(errorChart(asFound, run.leftAsFound ? null : asLeft)),
                500,
                `Error over the range. As found: ${asFound?.sentence ?? 'no readings.'}${asLeft && !run.leftAsFound ? ` As left: ${asLeft.sentence}` : ''}`,
              ),
              { text: 'Open marks: as found. Filled marks: as left. Dashed: tolerance.', fontSize: 7.5 },
            ],
          },
          {
            unbreakable: true,
            stack: [
              heading('Instruments'),
              instruments(data.equipment, dates),
              // The register tells the certificate of now; of a day before it began it says nothing.
              ...data.equipment
                .filter((e) => e.certifiedOn > run.startedAt.slice(0, 10))
                .map((e): Content => ({
                  text: `${asWritten(`${e.certificate} of ${e.name}`)} began after this verification: it does not cover it.`,
                  bold: true,
                })),
              ...(data.equipment.length > 0
                ? [
                    {
                      text: 'Each certificate named here states its own traceability; the plant’s register keeps it.',
                      fontSize: 7.5,
                    } satisfies Content,
                  ]
                : []),
            ],
          },
          ...uncertainty(data),
          {
            unbreakable: true,
            stack: [
              heading('Signatures'),
              signatures(data),
              ...(run.returned.length > 0
                ? [
                    {
                      text: `Returned ${run.returned.length} time(s): ${asWritten(run.returned.map((r) => r.reason).join('; '))}`,
                      margin: [0, 4, 0, 0] as [number, number, number, number],
                    },
                  ]
                : []),
              ...recordEnd(data.chain, sayProof(data)),
            ],
          },
        ],
        {
          'certificate.json': {
            text: JSON.stringify(file, null, 2),
            says: 'What stands on this certificate, as data',
          },
          ...(xml === null
            ? {}
            : {
                'certificate.xml': {
                  text: xml,
                  says: 'The same in the open form of digital calibration certificates',
                },
              }),
        },
      ),
    )
    .getBuffer()
}
