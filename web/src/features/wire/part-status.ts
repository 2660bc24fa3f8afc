import { ownerOf, type Energised } from '@calm/core/part/energise'
import type { KnownPart, Wiring } from '@calm/core/part/wiring'
import { meterReading } from '@calm/core/wire/meter'

/** States of coils and fuses in the technician's words. */
const STATES: Readonly<Record<string, string>> = {
  on: 'pulled in',
  off: 'at rest',
  blown: 'blown',
  ok: 'good',
}

/** What a part shows or does now, in a word or a number; empty when it has nothing to show. */
export function partStatus(part: KnownPart, w: Wiring, e: Energised, power: boolean): string {
  const value = (name: string) => e.values[`${name}(${part.id})`]
  const live = e.live.get(part.id)
  if (part.kind.duty === 'meter') return meterReading(w, part.id, e)?.text ?? ''
  const words = part.kind.actuate?.(part.s)
  if (words) return live?.actuated ? words.on : words.off
  const bit = value('bit')
  if (bit !== undefined) return bit === 'undefined' ? 'neither 0 nor 1' : `bit ${bit}`
  const state = STATES[String(value('state'))]
  if (state) return state
  const percents = Object.entries(e.values).flatMap(([name, v]) => {
    const element = /^pct\((.+)\)$/.exec(name)?.[1]
    return element !== undefined && ownerOf(element) === part.id && typeof v === 'number'
      ? [{ element, v }]
      : []
  })
  if ((part.kind.receives?.(part.s)?.channel ?? null) !== null)
    return percents.map((p) => `${p.element.split('~')[1] ?? ''}: ${p.v.toFixed(1)} %`).join('  ')
  if (percents[0]) return `${percents[0].v.toFixed(2)} %`
  const amp = value('amp')
  if (amp !== undefined) return String(amp).replace('_', ' ')
  if (part.kind.duty === 'transmitter') {
    const i = Number(value('I') ?? e.values[`I(${part.id}.${part.kind.sendsAt ?? 'plus'})`] ?? 0)
    if (part.kind.line === 'station') return power && live?.powered ? 'answers' : 'silent'
    return `${Math.abs(i * 1000).toFixed(3)} mA`
  }
  return ''
}
