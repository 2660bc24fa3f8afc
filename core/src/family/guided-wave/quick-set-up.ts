import { adjusted, callAndBypass, checkAndCall, decision, write } from '../../procedure/parts.ts'
import { sayNumber } from '../../quantity/round.ts'
import { valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import type { Advice, Procedure } from '../../procedure/step.ts'
import { ELECTRIC, say } from '../../procedure/general/common.ts'
import { wrote, type Outcome } from '../../procedure/outcome.ts'

function weakEchoes(run: ProcedureRun): string[] {
  const { mark_pct = 0, surface_pct = 0, end_pct = 0 } = valuesOfStep(run, 'echoes')
  return [
    ...(mark_pct < 80 ? ['The reference mark is weak: moisture or a loose joint at the top.'] : []),
    ...(surface_pct < 25 ? ['The surface echo is weak: foam, or a liquid that reflects little.'] : []),
    ...(end_pct < 3 && surface_pct < 25
      ? ['Neither surface nor end of the probe answers: look at the probe.']
      : []),
  ]
}

function guidedWaveAdvice(run: ProcedureRun): Advice {
  const { applied = NaN, pv = NaN } = valuesOfStep(run, 'asFound-1-read')
  const { range, tolerance_pct } = run.started.context
  const off = (100 * (pv - applied)) / Math.abs(range.high - range.low)
  const weak = weakEchoes(run)
  const worth = Math.abs(off) > tolerance_pct && weak.length === 0
  return {
    choice: worth ? 'adjust' : 'leave',
    says: [
      `It reads ${sayNumber(off, 3)} % of span off the tape, allowed ±${sayNumber(tolerance_pct, 3)} %.`,
      ...weak,
    ],
  }
}

/** Echoes, and the reading against the tape after the last write; one level says nothing of the other. */
function judgeGuidedWave(run: ProcedureRun): Outcome {
  const adjusted = wrote(run)
  const { applied, pv } = valuesOfStep(run, adjusted ? 'asLeft-1-read' : 'asFound-1-read')
  const { range, tolerance_pct: T } = run.started.context
  if (applied === undefined || pv === undefined)
    return adjusted
      ? { result: 'notVerified', says: ['Nobody has held it against the tape since the range was set.'] }
      : { result: 'notDone', says: ['It was not held against the tape.'] }
  const weak = weakEchoes(run)
  const off = (100 * (pv - applied)) / Math.abs(range.high - range.low)
  const told = `It reads ${sayNumber(off, 3)} % of span off the tape, allowed ±${sayNumber(T, 3)} %.`
  if (Math.abs(off) > T || weak.length > 0) return { result: 'out', says: [told, ...weak] }
  return {
    result: adjusted ? 'notVerified' : 'notJudged',
    says: [told, 'At one level only: verify it at two.'],
  }
}

export const GUIDED_WAVE_SET_UP: Procedure = {
  id: 'guided-wave-set-up',
  judges: 'sensor',
  title: 'Guided wave, quick set-up',
  purpose: 'Probe, range and echoes of a guided wave level in one go, checked against the tape.',
  minutes: 30,
  tools: ['settings sheet of this loop', 'tape or sight glass', 'link to the device'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  advise: guidedWaveAdvice,
  judge: judgeGuidedWave,
  steps: (c) => [
    ...callAndBypass(c, ELECTRIC),
    {
      id: 'probe',
      kind: 'read',
      title: 'The probe',
      says: 'Measured before it goes in; a cable probe is measured stretched.',
      fields: [
        { name: 'probe_m', label: 'Probe length', unit: 'm' },
        { name: 'zone_m', label: 'Top zone that is not measured', unit: 'm' },
      ],
    },
    {
      id: 'clear',
      kind: 'confirm',
      title: 'Nothing near the probe',
      says: 'Nozzle, ladder and filling stream give echoes of their own.',
      hold: ['It hangs free of wall and stream, and does not touch the nozzle.'],
    },
    {
      id: 'echoes',
      kind: 'read',
      title: 'Reference mark, surface, end of the probe',
      says: 'All three have to be there: the mark proves the top, the end proves the length.',
      fields: [
        { name: 'mark_pct', label: 'Reference mark', unit: '%', readsFrom: { signal: 'mark_pct' } },
        { name: 'surface_pct', label: 'Surface echo', unit: '%', readsFrom: { signal: 'surface_pct' } },
        { name: 'end_pct', label: 'End of the probe', unit: '%', readsFrom: { signal: 'end_pct' } },
      ],
    },
    {
      id: 'asFound-1-read',
      kind: 'read',
      phase: 'asFound',
      title: 'Level by the tape, and what it reads',
      says: 'Before anything is written.',
      gates: ['still'],
      fields: [
        { name: 'applied', label: 'Level by the tape', unit: c.range.unit, readsFrom: 'standard' },
        { name: 'pv', label: 'It reads', unit: c.range.unit, readsFrom: 'pv' },
      ],
    },
    decision('Write the range, or leave it'),
    write(
      'range',
      `Set ${say(c, c.range.low)} to ${say(c, c.range.high)}`,
      'As documented: 4 mA at the first, 20 mA at the second.',
      'range',
      {
        fields: [
          { name: 'LRV', label: '4 mA point', unit: c.range.unit, preset: c.range.low },
          { name: 'URV', label: '20 mA point', unit: c.range.unit, preset: c.range.high },
        ],
      },
    ),
    {
      ...adjusted,
      title: 'Store: yes',
      hold: ['Stored, answered with yes.', 'Power off and on: the range is still there.'],
    },
    {
      id: 'asLeft-1-read',
      kind: 'read',
      phase: 'asLeft',
      title: 'Level by the tape, and what it reads now',
      says: 'The same comparison, after it was stored.',
      gates: ['still'],
      fields: [
        { name: 'applied', label: 'Level by the tape', unit: c.range.unit, readsFrom: 'standard' },
        { name: 'pv', label: 'It reads', unit: c.range.unit, readsFrom: 'pv' },
      ],
    },
    ...checkAndCall(c),
  ],
}
