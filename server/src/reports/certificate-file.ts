import type { CertificateFile } from '@calm/contract/certificate-file'
import { sayLaw } from '@calm/core/record/applied-law'
import { claimedU_pct } from '@calm/core/record/judge-run'
import type { Column, Phase } from '@calm/core/record/kinds/reading-values'
import { readings } from '@calm/core/record/readings'
import { RULE_WORDS } from '@calm/core/verify/decision'
import { sayPlan } from '@calm/core/verify/plan'
import { sayTolerance } from '@calm/core/verify/tolerance'
import type { Judgement } from '@calm/core/verify/verdict'
import type { CertificateData } from './certificate-data.ts'

/** By what a paper is asked for: the beginning of its run's identifier. */
export const certificateNumber = (runId: string): string => runId.slice(0, 8).toUpperCase()

/** The certificate as data: the same as on the paper, for a program. */
export function certificateFile(
  d: Pick<
    CertificateData,
    | 'runId'
    | 'run'
    | 'document'
    | 'asFound'
    | 'asLeft'
    | 'overall'
    | 'equipment'
    | 'names'
    | 'chain'
    | 'proof'
  > & { readonly stationery: Pick<CertificateData['stationery'], 'letterhead'> },
): CertificateFile {
  const { run, document: loop, overall } = d
  const { inputRange, outputRange, tolerance, applies, plan, rule, circumstances: c } = run.started
  const range = (r: typeof inputRange) => ({ low: r.low, high: r.high, unit: r.unit })
  const phase = (name: Phase, j: Judgement | null): CertificateFile['asFound'] => {
    if (!j) return null
    const rows = name === 'asLeft' && run.leftAsFound ? run.asFound : run[name]
    const value = (index: number, column: Column) => {
      const v = rows[index]?.[column]
      return v ? { value: v.value, asTyped: v.typed } : null
    }
    return {
      says: j.sentence,
      points: readings(run, name).map(({ index, direction }) => {
        const p = j.points.find((x) => x.index === index)
        return {
          point: index + 1,
          direction,
          applied: value(index, 'applied'),
          transmitter: value(index, 'pv'),
          current_mA: value(index, 'loopCurrent_mA'),
          controller: value(index, 'controller'),
          error_pctSpan: p?.loop_pct ?? null,
          tolerance_pctSpan: p?.allowed_pct ?? null,
        }
      }),
    }
  }
  const U = claimedU_pct(run)
  return {
    format: 'calm-loop-certificate',
    version: 1,
    number: certificateNumber(d.runId),
    plant: d.stationery.letterhead,
    loop: { tag: loop.tag, service: loop.service, area: loop.area, type: loop.type },
    device: { maker: c?.maker ?? '', model: c?.model ?? '', serial: c?.serial ?? '' },
    circumstances: {
      order: c?.order ?? '',
      place: c?.place ?? '',
      ambient: c?.ambient ?? '',
      procedure: c?.procedure ?? '',
    },
    begun: run.startedAt,
    by: d.names[run.startedBy] ?? '',
    ranges: { input: range(inputRange), output: range(outputRange) },
    plan: sayPlan(plan),
    appliedAs: applies ? sayLaw(applies, inputRange) : '',
    tolerance: sayTolerance(tolerance, outputRange.unit),
    rule: RULE_WORDS[rule ?? 'simple'],
    overall: { verdict: overall.verdict, says: overall.says, nextDue: overall.due },
    asFound: phase('asFound', d.asFound),
    adjustments: run.adjustments.map((a) => ({ note: a.note, by: d.names[a.by] ?? '', at: a.at })),
    asLeft: phase('asLeft', d.asLeft),
    uncertainty_pctSpan: U > 0 ? U : null,
    instruments: d.equipment.map(({ name, serial, uncertainty, certificate, certifiedOn, dueOn }) => ({
      name,
      serial,
      uncertainty,
      certificate,
      certifiedOn,
      dueOn,
    })),
    signatures: run.signatures.map((s) => ({
      as: s.as,
      by: d.names[s.by] ?? '',
      at: s.at,
      statement: s.statement,
    })),
    record: { run: d.runId, seq: d.chain.seq, sha256: d.chain.hash, proof: d.proof },
  }
}
