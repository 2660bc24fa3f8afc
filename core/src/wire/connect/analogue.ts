import { address, type KnownPart } from '../../part/wiring.ts'
import type { Builder } from './builder.ts'

/** In and out of everything the loop current passes in the cabinet, in order. */
function seriesItems(b: Builder): (readonly [into: string, out: string])[] {
  const displays = b.all('inLoop').map((p) => [address(p.id, 'plus'), address(p.id, 'minus')] as const)
  const receivers = b.all('receiver').map((p) => receiverEnds(p))
  return [...displays, ...receivers]
}

function receiverEnds(p: KnownPart): readonly [string, string] {
  const ends = p.kind.receives?.(p.s) ?? { into: 'in', out: 'com' }
  return [address(p.id, ends.into), address(p.id, ends.out)]
}

const feeds = (p: KnownPart) => p.kind.duty === 'receiver' && (p.kind.loopFeed?.(p.s) ?? null) !== null

/** Cabinet end of the loop: where current comes in, through everything in series, to where it goes back. */
function chain(b: Builder, items: readonly (readonly [string, string])[], back: string | null): string {
  const [first] = items
  if (!first) return b.refuse('Nothing among the parts reads the current: add a 4-20 mA input.')
  items.forEach(([, out], i) => {
    const next = items[i + 1]?.[0] ?? back
    if (next !== null) b.wire(out, next)
  })
  return first[0]
}

const hasOwnSupply = (p: KnownPart): boolean => p.terminals.some((t) => t.id === 'V+')

/** The sensor of a head, lead by lead. */
function sensorOf(b: Builder, tx: KnownPart): void {
  const sensor = b.all('loose').find((p) => p.kind.readBy === tx.kind.kind)
  for (const t of sensor?.terminals ?? []) b.wire(address(sensor?.id ?? '', t.id), address(tx.id, t.id))
}

/** To a part in the cabinet: over boxes and cable from the field, at once from the next rail. */
const go = (b: Builder, from: KnownPart, at: string, to: string) =>
  from.kind.place === 'field' ? b.run(at, to) : b.wire(at, to)

/** From an output through everything in series: the output's plus to the first, the last one's way out comes back. */
function chainTo(b: Builder, items: readonly (readonly [string, string])[], plus: string): string {
  const [first] = items
  if (!first) return plus
  b.wire(plus, first[0])
  items.forEach(([, out], i) => {
    const next = items[i + 1]?.[0]
    if (next !== undefined) b.wire(out, next)
  })
  return items.at(-1)?.[1] ?? plus
}

function receiverSupplies(b: Builder): void {
  for (const p of [...b.all('receiver'), ...b.all('inLoop')].filter(hasOwnSupply)) {
    b.wire(b.plus(p.id), address(p.id, 'V+'))
    b.wire(address(p.id, 'V-'), b.minus(p.id))
  }
}

/** Supplies of converters and of the transmitter itself. */
function ownSupplies(b: Builder, tx: KnownPart): void {
  receiverSupplies(b)
  if (hasOwnSupply(tx)) {
    go(b, tx, address(tx.id, 'V+'), b.plus(tx.id))
    go(b, tx, address(tx.id, 'V-'), b.minus(tx.id))
  }
  b.mains(tx)
  for (const p of b.all('source')) b.mains(p)
}

/**
 * What feeds a passive loop: an isolator, a supply, or the card itself. Returns the terminal the current
 * comes from and wires the way back.
 */
function passiveLoop(b: Builder, tx: KnownPart): { readonly from: string; readonly into: string } {
  const isolator = b.first('repeater')
  const items = seriesItems(b)
  if (isolator?.kind.loopFeed) {
    const into = chain(b, items, address(isolator.id, 'on'))
    b.wire(address(isolator.id, 'op'), into)
    return { from: address(isolator.id, 'fp'), into: address(isolator.id, 'fn') }
  }
  const card = b.all('receiver').find(feeds)
  const supply = b.first('source')
  const needsSupplyAnyway = b.all('receiver').some(hasOwnSupply)
  if (supply && !(card && needsSupplyAnyway)) {
    const into = chain(b, items, b.minus(tx.id))
    return { from: b.plus(tx.id), into }
  }
  if (card) {
    // The feeding card comes last: its common is the end of the loop inside the card.
    const [into, out] = receiverEnds(card)
    const others = items.filter(([i]) => i !== into)
    return { from: address(card.id, 'sup'), into: chain(b, [...others, [into, out]], null) }
  }
  const none = b.refuse(
    `Nothing feeds the loop: ${tx.id} only controls a current, and no part among these drives one. Add a supply, or take a card that feeds the loop.`,
  )
  return { from: none, into: none }
}

/** Wires a transmitter's loop. */
export function connectAnalogue(b: Builder, tx: KnownPart): string {
  const at = (t: string) => address(tx.id, t)
  switch (tx.kind.wiredAs) {
    case 'twoWire': {
      const { from, into } = passiveLoop(b, tx)
      sensorOf(b, tx)
      b.run(at('plus'), from)
      b.run(at('minus'), into)
      ownSupplies(b, tx)
      return `${tx.id} takes its power from the loop: ${fedBy(b)} drives it, everything else stands in series.`
    }
    case 'threeWire': {
      const into = chain(b, seriesItems(b), b.minus(tx.id))
      b.run(at('plus'), b.plus(tx.id))
      b.run(at('out'), into)
      b.run(at('minus'), b.minus(tx.id))
      ownSupplies(b, tx)
      return `${tx.id} is supplied over + and −; its current leaves at “out” and comes back over the common −.`
    }
    case 'active': {
      const items = seriesItems(b)
      const last = items.at(-1)
      if (tx.kind.place === 'rack') {
        // An output card drives what stands in the field.
        const inField = b.all('receiver').find((p) => p.kind.place === 'field')
        if (!inField) return b.refuse(`Nothing among the parts takes what ${tx.id} sends: add a positioner.`)
        const [first, back] = receiverEnds(inField)
        const [from] = items.filter(([i]) => i !== first)
        b.run(
          first,
          from
            ? chainTo(
                b,
                items.filter(([i]) => i !== first),
                at('plus'),
              )
            : at('plus'),
        )
        b.run(back, at('minus'))
        ownSupplies(b, tx)
        return `${tx.id} drives ${inField.id} in the field.`
      }
      const into = chain(b, items, null)
      b.run(at('plus'), into)
      b.run(at('minus'), last?.[1] ?? into)
      ownSupplies(b, tx)
      const card = b.all('receiver').find(feeds)
      return `${tx.id} drives its own current.${card ? ` Leave terminal 24+ of ${card.id} free: two sources would drive one loop.` : ''}`
    }
    case 'passive': {
      const hasSource = b.first('source') ?? b.all('receiver').find(feeds) ?? b.first('repeater')
      if (hasSource && tx.kind.ownFeed?.(tx.s) !== 'jumpered') {
        const { from, into } = passiveLoop(b, tx)
        go(b, tx, at('plus'), from)
        go(b, tx, at('minus'), into)
        ownSupplies(b, tx)
        return `${tx.id} only controls the current: ${fedBy(b)} drives it from outside.`
      }
      if (tx.kind.ownFeed?.(tx.s) === 'none')
        return b.refuse(
          `${tx.id} has a passive output and nothing feeds it. Add a supply, or take a card that feeds the loop.`,
        )
      const items = seriesItems(b)
      const last = items.at(-1)
      const into = chain(b, items, null)
      b.wire(at('auxP'), at('plus'))
      go(b, tx, at('minus'), into)
      go(b, tx, at('auxN'), last?.[1] ?? into)
      ownSupplies(b, tx)
      return `The jumper from 24+ to I+ lets ${tx.id} drive its own output; the current comes back to 24−.`
    }
    case 'serial': {
      const master = b.first('link') ?? b.all('receiver').find((p) => p.kind.line === 'master')
      if (!master) return b.refuse('Nothing among the parts speaks to a serial sensor: add a serial port.')
      b.run(at('V+'), b.plus(tx.id))
      b.run(at('V-'), b.minus(tx.id))
      b.run(at('A'), address(master.id, 'A'))
      b.run(at('B'), address(master.id, 'B'))
      if (master.terminals.some((t) => t.id === 'G')) b.wire(address(master.id, 'G'), b.minus(tx.id))
      receiverSupplies(b)
      for (const p of b.all('source')) b.mains(p)
      return 'A to A and B to B, in one twisted pair; the ends of the line carry 120 Ω.'
    }
    default:
      return b.refuse(`There is no rule yet to wire a ${tx.kind.title.toLowerCase()}.`)
  }
}

function fedBy(b: Builder): string {
  const isolator = b.first('repeater')
  if (isolator) return isolator.id
  const source = b.first('source')
  return source?.id ?? b.all('receiver').find(feeds)?.id ?? 'the supply'
}
