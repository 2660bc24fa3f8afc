import { z } from 'zod'
import { HOW_IT_CAME } from '../../logs/recording.ts'
import { sayCount } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { defineKind } from './kind.ts'

/** A measured log was read in whole: its samples stand beside the record, their hash in it. */
export const logKept = defineKind({
  type: 'log.kept',
  of: 'loop',
  payload: z.strictObject({
    log: z.uuid(),
    title: z.string().max(120),
    of: z.enum(['installed', 'reference']),
    /** Where its rows come from; absent: files. */
    source: z.enum(['memory', 'link', 'typed']).optional(),
    /** Name of the instrument that recorded it; empty: nobody said. */
    instrument: z.string().max(200),
    site: z.string().max(120),
    files: z.array(z.string().max(200)).max(60),
    channels: z
      .array(z.strictObject({ name: z.string().max(120), unit: z.string().max(40).nullable() }))
      .max(60),
    rows: z.int().min(1),
    /** Lines that could not be read, each told with its reason. */
    wrong: z.int().min(0),
    from: z.number(),
    to: z.number(),
    simulated: z.boolean(),
    /** Of the hashes of its blocks, in their order. */
    sha256: z.string().regex(/^[0-9a-f]{64}$/),
  }),
  title: 'Log read in',
  says: (p) =>
    [
      `“${p.title}” of ${p.of === 'installed' ? 'this meter' : 'a reference'}${p.instrument === '' ? '' : ` (${p.instrument})`}:`,
      `${sayCount(p.rows)} ${p.rows === 1 ? 'row' : 'rows'} of ${p.channels.map((c) => (c.unit === null ? c.name : `${c.name} in ${printedUnit(c.unit)}`)).join(', ')}`,
      p.wrong === 0 ? '' : `(${sayCount(p.wrong)} ${p.wrong === 1 ? 'line' : 'lines'} could not be read)`,
      p.source === undefined ? '' : HOW_IT_CAME[p.source],
      p.simulated ? '(simulated)' : '',
    ]
      .filter((x) => x !== '')
      .join(' '),
})
