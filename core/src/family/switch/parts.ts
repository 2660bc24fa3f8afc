import type { UsualParts } from '../family.ts'
import type { Entries } from './settings.ts'

/** The sensor with its cable, and the input that reads it. */
export function partsOf(s: Entries): UsualParts {
  const fn = s.contact
  const wired = (
    kind: string,
    settings: UsualParts['sender']['settings'],
    cores: number,
    discrete: '1' | '3',
    behind?: string,
  ): UsualParts => ({
    sender: { kind, settings: settings ?? {} },
    cores,
    feed: 'supply',
    into: { discrete, ...(behind ? { behind } : {}) },
  })
  if (s.output === 'namur') return wired('namur-sensor', {}, 2, '1', 'namur-amplifier')
  if (s.kind === 'float') return wired('float-switch', { fn }, 2, '1')
  if (s.kind === 'trip') return wired('trip-contact', {}, 2, '1')
  if (s.kind === 'magnetic')
    return wired('cylinder-switch', { build: s.output === 'npn' ? 'npn' : 'pnp' }, 3, '3')
  switch (s.output) {
    case 'contact':
      return wired('dry-contact', { fn }, 2, '1')
    case 'twoWire':
      return wired('proximity-two-wire', { fn }, 2, '3')
    default:
      return wired('proximity-three-wire', { out: s.output === 'pushPull' ? 'pp' : s.output, fn }, 3, '3')
  }
}
