import { ATMOSPHERE_KPA } from '../../media/fluid.ts'
import { sayNumber } from '../../quantity/round.ts'
import { convert, printedUnit } from '../../quantity/units.ts'
import { acceptOrReport, callAndBypass, checkAndCall } from '../../procedure/parts.ts'
import type { Outcome } from '../../procedure/outcome.ts'
import { valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import {
  toldNumber,
  toldNumbers,
  type Advice,
  type Procedure,
  type ProcedureContext,
  type Step,
  type Values,
} from '../../procedure/step.ts'
import { minutesToLeave, nozzleFlow, nozzleVerdict, OXYGEN_LEAVE_PCT } from './nozzle.ts'

const NITROGEN = [
  'Nitrogen suffocates without warning: vent outdoors, wear an oxygen meter, never alone.',
  'Bottles are chained; the regulator is in date; goggles.',
  'The permit is here and names this tag.',
]
/** Pressures before the nozzle where no certificate tells its own, kPa absolute. */
const PRESSURES_KPA = [300, 500, 700, 900] as const
/** Pressures of a check and of its certificate are the same within this share. */
const SAME_PRESSURE = 0.02
/** Two readings of a standing pressure differ by less than this share. */
const STILL_SHARE = 0.01
const KG_H_PER_G_S = 3.6

interface Certificate {
  readonly unit: string
  readonly pressures: readonly number[]
  /** What the device read at each, kg/h; none where the certificate is not at hand. */
  readonly certified: readonly number[]
  readonly absolute_kPa: (p: number) => number
}
function certificateOf(c: ProcedureContext): Certificate {
  const pressures = toldNumbers(c, 'pressures')
  if (pressures.length === 0)
    return { unit: 'kPa absolute', pressures: PRESSURES_KPA, certified: [], absolute_kPa: (p) => p }
  const [per, base] = [toldNumber(c, 'perUnit_kPa'), toldNumber(c, 'base_kPa')]
  const unit = c.told?.['pressureUnit']
  return {
    unit: typeof unit === 'string' ? unit : 'kPa absolute',
    pressures,
    certified: toldNumbers(c, 'certified'),
    absolute_kPa: (p) => p * per + base,
  }
}
const nozzleOf = (run: ProcedureRun) => {
  const { throat_mm = NaN, Cd = 0 } = valuesOfStep(run, 'nozzle')
  return { throat_mm, Cd: Cd > 0 ? Cd : null }
}
/** Flow through the nozzle at a reading of a point, kg/h; null where it is not sonic or outside what is known. */
function nozzle_kgh(run: ProcedureRun, v: Values, p0?: number): number | null {
  const cert = certificateOf(run.started.context)
  const { throat_mm, Cd } = nozzleOf(run)
  const flow = nozzleFlow(
    throat_mm,
    cert.absolute_kPa(p0 ?? v['p0'] ?? NaN),
    v['t0_C'] ?? NaN,
    cert.absolute_kPa(v['after'] ?? NaN),
    Cd,
  )
  return flow?.massFlow_g_s == null ? null : flow.massFlow_g_s * KG_H_PER_G_S
}

/** Until a point stands still and is read. */
const MINUTES_A_POINT = 2
/** What a check lets through where nobody has told its nozzle; typical. */
const USUAL_STEPS = [{ kg_h: 20, minutes: 4 }]
/** Nitrogen of each point, as its nozzle tells. */
function nitrogenSteps(c: ProcedureContext) {
  const throat_mm = toldNumber(c, 'throat_mm')
  const { pressures, absolute_kPa } = certificateOf(c)
  if (!Number.isFinite(throat_mm)) return USUAL_STEPS
  return pressures.map((p) => {
    const flow = nozzleFlow(throat_mm, absolute_kPa(p), 20, ATMOSPHERE_KPA, null)
    return { kg_h: (flow?.massFlow_g_s ?? 0) * KG_H_PER_G_S, minutes: MINUTES_A_POINT }
  })
}

/** Nitrogen through the nozzle, once its pressures and temperature are known. */
function letItFlow(values: Values, run: ProcedureRun) {
  const flow = nozzle_kgh(run, values)
  const told = flow === null ? null : convert(flow, 'kg/h', run.started.context.range.unit)
  return told?.kind === 'value'
    ? { says: 'Let the nitrogen flow', command: { kind: 'apply' as const, value: told.value } }
    : null
}

/** Why a point cannot be recorded: nobody knows a flow that is not sonic. */
function notSonic(c: ProcedureContext) {
  const cert = certificateOf(c)
  return ({ p0 = NaN, after = NaN, t0_C = NaN }: Values): string | null => {
    const flow = nozzleFlow(1, cert.absolute_kPa(p0), t0_C, cert.absolute_kPa(after), 0.99)
    if (!flow)
      return `Nitrogen is known here from 100 to 5000 kPa absolute and from 0 to 40 °C; ${sayNumber(p0)} ${cert.unit} at ${sayNumber(t0_C)} °C is outside. Is the pressure in ${cert.unit}?`
    return flow.choked
      ? null
      : `The nozzle is not sonic: ${sayNumber(after)} behind ${sayNumber(p0)} ${cert.unit}. Raise the supply or clear the vent; the flow is not known like this.`
  }
}

interface Judged {
  readonly says: string
  readonly state: 'good' | 'moved' | 'out' | 'unknown'
}
/** A point against the nozzle's flow, and against what the device read when it was certified. */
function judgePoint(run: ProcedureRun, i: number, v: Values): Judged {
  const c = run.started.context
  const cert = certificateOf(c)
  const u = printedUnit(c.range.unit)
  const flow = nozzle_kgh(run, v)
  const told = flow === null ? null : convert(flow, 'kg/h', c.range.unit)
  const where = `${sayNumber(v['p0'] ?? NaN, 5)} ${cert.unit}`
  if (told?.kind !== 'value' || flow === null)
    return {
      state: 'unknown',
      says:
        flow === null
          ? `${where}: the flow is not known.`
          : `${where}: the nozzle tells kg/h and the meter ${u}; read it in a mass flow.`,
    }
  const { ofReading_pct = 0, ofFs_pct = 0, checkFs_kgh = 0 } = valuesOfStep(run, 'limits')
  const pv = v['pv'] ?? NaN
  const asCertified = cert.certified[i]
  const then = asCertified === undefined ? null : nozzle_kgh(run, v, cert.pressures[i])
  const baseline_pct = asCertified === undefined || then === null ? null : (asCertified / then - 1) * 100
  const inRange = convert(checkFs_kgh, 'kg/h', c.range.unit)
  const [j] = nozzleVerdict(
    [{ reference: told.value, indicated: pv, baseline_pct }],
    ofReading_pct,
    ofFs_pct,
    inRange.kind === 'value' ? inRange.value : NaN,
  )
  if (!j || !Number.isFinite(j.limit_pct)) return { state: 'unknown', says: `${where}: no limit is known.` }
  const since = baseline_pct === null ? null : j.deviation_pct - baseline_pct
  const state =
    j.verdict === 'FAIL' || (since !== null && Math.abs(since) > j.limit_pct)
      ? 'out'
      : j.verdict === 'ALERT'
        ? 'moved'
        : 'good'
  const moved = since === null ? '' : `, ${sayNumber(since, 3)} % since its certificate`
  return {
    state,
    says: `${where}: nozzle ${sayNumber(told.value, 5)}, meter ${sayNumber(pv, 5)} ${u}: ${sayNumber(j.deviation_pct, 3)} %${moved}; allowed ±${sayNumber(j.limit_pct, 3)} %${state === 'out' ? ', too much' : ''}.`,
  }
}

const pointId = (i: number) => `gas-${i + 1}`
/** What is usual where nobody entered a limit; typical. */
const USUAL = { ofReading_pct: 1, ofFs_pct: 0.2 } as const
/** Limits typed at the check that are wider than the set-up's prove nothing; null where they are not. */
function widerLimits(run: ProcedureRun): string | null {
  const c = run.started.context
  const typed = valuesOfStep(run, 'limits')
  const known = (name: keyof typeof USUAL) => {
    const value = toldNumber(c, name)
    return Number.isFinite(value) ? value : USUAL[name]
  }
  const wider = (['ofReading_pct', 'ofFs_pct'] as const).filter(
    (name) => (typed[name] ?? 0) > known(name) * (1 + 1e-9),
  )
  if (wider.length > 0)
    return `It was judged by wider limits than the set-up’s, ${known('ofReading_pct')} % of reading and ${known('ofFs_pct')} % of full scale.`
  const fs = toldNumber(c, 'checkFs_kgh')
  if (!Number.isFinite(fs)) return 'The set-up does not tell the full scale of the check: enter it there.'
  return (typed['checkFs_kgh'] ?? 0) > fs * (1 + 1e-9)
    ? `It was judged by a full scale of ${sayNumber(typed['checkFs_kgh'] ?? 0)} kg/h; the set-up says ${sayNumber(fs)}.`
    : null
}

/** Every pressure of the certificate has to be there, and each inside: one that is out is out. */
function judgeGas(run: ProcedureRun): Outcome {
  const cert = certificateOf(run.started.context)
  const judged = cert.pressures.flatMap((_, i) => {
    const v = valuesOfStep(run, pointId(i))
    return v['pv'] === undefined ? [] : [judgePoint(run, i, v)]
  })
  if (judged.length === 0) return { result: 'notDone', says: ['No pressure was read.'] }
  const says = judged.map((j) => j.says)
  const has = (state: Judged['state']) => judged.some((j) => j.state === state)
  if (has('out')) return { result: 'out', says }
  if (has('unknown') || judged.length < cert.pressures.length) return { result: 'notJudged', says }
  const wider = widerLimits(run)
  if (wider !== null) return { result: 'notJudged', says: [...says, wider] }
  if (has('moved'))
    return {
      result: 'look',
      says: [...says, 'Inside, and moved by more than half of it since its certificate.'],
    }
  return {
    result: 'untouched',
    says:
      cert.certified.length > 0
        ? says
        : [...says, 'Against the nozzle only: no certificate reading is known.'],
  }
}
function gasAdvice(run: ProcedureRun): Advice {
  const { result, says } = judgeGas(run)
  return { choice: result === 'untouched' ? 'accept' : 'report', says }
}

/** What is allowed of the meter at a pressure, in its unit: of the check’s own full scale, not of the process range. */
function allowedAt(c: ProcedureContext, p: number): number | null {
  const { pressures, absolute_kPa } = certificateOf(c)
  const told = (name: keyof typeof USUAL) => {
    const value = toldNumber(c, name)
    return Number.isFinite(value) ? value : USUAL[name]
  }
  const fs = toldNumber(c, 'checkFs_kgh')
  // A sonic flow goes with the pressure before the nozzle.
  const flow = (fs * absolute_kPa(p)) / Math.max(...pressures.map(absolute_kPa))
  const allowed_kgh = (told('ofReading_pct') * flow + told('ofFs_pct') * fs) / 100
  const allowed = Number.isFinite(allowed_kgh) ? convert(allowed_kgh, 'kg/h', c.range.unit) : null
  return allowed?.kind === 'value' ? allowed.value : null
}

const gasPoint = (c: ProcedureContext, i: number, p: number, of: number): Step => {
  const { unit, absolute_kPa } = certificateOf(c)
  const within = (SAME_PRESSURE * absolute_kPa(p)) / (absolute_kPa(1) - absolute_kPa(0))
  const allowed = allowedAt(c, p)
  return {
    id: pointId(i),
    kind: 'read',
    phase: 'asFound',
    before: letItFlow,
    gate: notSonic(c),
    gates: ['input', 'still'],
    steady: 'p0',
    title: `${i + 1} of ${of}: ${sayNumber(p, 5)} ${unit}`,
    says: 'Set it, wait until pressure, temperature and reading stand still, read all four.',
    fields: [
      {
        name: 'p0',
        label: `Before it, ${unit}`,
        unit: null,
        within: STILL_SHARE * Math.max(1, Math.abs(p)),
        wanted: () => ({ value: p, within }),
      },
      { name: 't0_C', label: 'Temperature there', unit: 'degC' },
      { name: 'after', label: `Behind it, ${unit}`, unit: null },
      {
        ...{ name: 'pv', label: 'The meter reads', unit: c.range.unit, readsFrom: 'pv' },
        ...(allowed === null ? {} : { within: allowed, withinSince: 4 }),
      },
    ],
  }
}
const preset = (c: ProcedureContext, name: string, usual?: number) => {
  const value = toldNumber(c, name)
  if (Number.isFinite(value)) return { preset: value }
  return usual === undefined ? {} : { preset: usual }
}

export const GAS_VERIFICATION: Procedure = {
  id: 'gas-verification',
  judges: 'sensor',
  title: 'Verification in place with nitrogen',
  purpose:
    'Nitrogen through a sonic nozzle at the pressures of its certificate: the flow follows from pressure and temperature, and the meter is compared with it and with what it read when it was certified.',
  minutes: 45,
  tools: [
    'nitrogen bottle and regulator',
    'nozzle with its certificate',
    'gauge and thermometer in date',
    'oxygen meter',
  ],
  uses: (c) => [{ item: 'nitrogenFlow', steps: nitrogenSteps(c) }],
  permissions: ['meter isolated by the operators', 'loop in manual', 'bypass of its trips'],
  cautions: NITROGEN,
  advise: gasAdvice,
  judge: judgeGas,
  steps: (c) => {
    const { pressures } = certificateOf(c)
    const room = minutesToLeave(42, 55)
    return [
      ...callAndBypass(c, NITROGEN),
      {
        id: 'isolated',
        kind: 'valve',
        title: 'Retracted behind its closed valve, nozzle connected',
        says: `Vented and proved at zero; hose, nozzle and gauge on the check port; vent outdoors. In a closed room of 42 m³ oxygen is below ${OXYGEN_LEAVE_PCT} % after about ${sayNumber(room ?? NaN, 2)} minutes.`,
        hold: [
          'No flow of the process reaches the meter.',
          'The hose was soaped at pressure and holds.',
          'The vent ends in the open; the oxygen meter is on.',
        ],
      },
      {
        id: 'nozzle',
        kind: 'read',
        title: 'The nozzle',
        says: 'From its certificate. Without a discharge coefficient type 0: that of a toroidal throat is used.',
        fields: [
          { name: 'throat_mm', label: 'Throat', unit: 'mm', ...preset(c, 'throat_mm') },
          { name: 'Cd', label: 'Discharge coefficient', unit: null, ...preset(c, 'Cd', 0) },
        ],
      },
      {
        id: 'limits',
        kind: 'read',
        title: 'What is allowed',
        says: 'The check has a full scale of its own; the range of the process is another.',
        fields: [
          {
            name: 'ofReading_pct',
            label: 'Allowed, of reading',
            unit: '%',
            ...preset(c, 'ofReading_pct', USUAL.ofReading_pct),
          },
          {
            name: 'ofFs_pct',
            label: 'Allowed, of full scale',
            unit: '%',
            ...preset(c, 'ofFs_pct', USUAL.ofFs_pct),
          },
          {
            name: 'checkFs_kgh',
            label: 'Full scale of the check',
            unit: 'kg/h',
            ...preset(c, 'checkFs_kgh'),
          },
        ],
      },
      ...pressures.map((p, i) => gasPoint(c, i, p, pressures.length)),
      acceptOrReport(
        'Meter against nozzle, and against its own certificate.',
        'Accept: it measures as before',
        'Report: clean it, or send it in',
      ),
      {
        id: 'removed',
        kind: 'valve',
        title: 'Bottle shut, hose vented and off',
        says: 'Bottle first, then the regulator, then the hose. The probe is inserted again by its own procedure.',
        command: { kind: 'apply', value: null },
        hold: ['The check port is closed again.', 'The room is aired; the oxygen meter is quiet.'],
      },
      ...checkAndCall(c),
    ]
  },
}
