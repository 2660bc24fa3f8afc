import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { PROBES, type ProbeSetUp } from './probe.ts'
import type { Entries } from './settings.ts'

/** What a probe usually cannot measure at its top and at its end, m; typical, the data sheet wins. */
export interface DeadZones {
  readonly top_m: number
  readonly bottom_m: number
}
/**
 * Typical dead zones by probe, product and length: a weak echo needs more room at both ends, a cable's weight cannot
 * be measured, and a long probe stretches and blurs its end.
 */
export function typicalDeadZones(probe: keyof typeof PROBES, eps: number, length_m: number): DeadZones {
  const top = { rod: 0.12, cable: 0.15, twin: 0.1, coax: 0.05 }[probe]
  const bottom = { rod: 0.05, cable: 0.15, twin: 0.05, coax: 0.03 }[probe]
  const weak = eps < 5 ? 0.05 : 0
  return { top_m: top + weak, bottom_m: bottom + weak + (length_m > 10 ? 0.05 : 0) }
}

const TYPICAL = 'typical; check the data sheet'
/** Entered dead zones against what is usual, and the standpipe that can take the upper one up. */
export function deadZoneFindings(s: Entries, p: ProbeSetUp): Finding[] {
  const usual = typicalDeadZones(s.probe, s.eps, p.probe_m)
  const short = (name: 'topDead_m' | 'bottomDead_m', which: string, entered: number, typical: number) =>
    entered < typical * 0.6
      ? [
          {
            code: 'DEAD_ZONE_SHORT',
            severity: 'warn' as const,
            where: [name],
            says: `The ${which} dead zone of a ${PROBES[s.probe].title} of ${sayNumber(p.probe_m)} m in a product of permittivity ${sayNumber(s.eps)} is usually ${sayNumber(typical * 1000)} mm; ${sayNumber(entered * 1000)} mm are entered. Millimetres or metres, or another probe’s value?`,
            rule: TYPICAL,
          },
        ]
      : []
  const standpipe: Finding[] =
    s.standpipe_m === 0
      ? []
      : p.at20_m < s.standpipe_m - 1e-9
        ? [
            {
              code: 'ABOVE_THE_TANK',
              severity: 'warn',
              where: ['at20_m', 'level20_m', 'standpipe_m'],
              says: `100 % at ${sayNumber(p.at20_m)} m lies in the standpipe, ${sayNumber((s.standpipe_m - p.at20_m) * 1000, 3)} mm above the tank’s top: the tank is full before the output says so.`,
            },
          ]
        : s.standpipe_m >= p.topDead_m
          ? [
              {
                code: 'STANDPIPE_COVERS',
                severity: 'good',
                where: ['standpipe_m'],
                says: `The standpipe of ${sayNumber(s.standpipe_m)} m takes up the upper dead zone: 100 % may be the tank’s top, at ${sayNumber(s.standpipe_m)} m.`,
              },
            ]
          : [
              {
                code: 'STANDPIPE_SHORT',
                severity: 'note',
                where: ['standpipe_m'],
                says: `The standpipe leaves ${sayNumber((p.topDead_m - s.standpipe_m) * 1000, 3)} mm of the upper dead zone in the tank: 100 % can be at ${sayNumber(p.topDead_m)} m at the highest.`,
              },
            ]
  return [
    ...short('topDead_m', 'upper', p.topDead_m, usual.top_m),
    ...short('bottomDead_m', 'lower', p.bottomDead_m, usual.bottom_m),
    ...standpipe,
  ]
}
