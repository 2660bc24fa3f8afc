import type { ScaleDrawing, Shape } from '../scale-drawing.ts'

export interface Legs {
  readonly lowerTap_m: number
  /** Null for an open tank. */
  readonly upperTap_m: number | null
  readonly transmitter_m: number
  readonly zero_m: number
  readonly full_m: number
  readonly level_m: number | null
  readonly lowLeg: string
}

/** Tank, taps, legs and transmitter to one scale of height, mm; widths are only for reading. */
export function legsDrawing(l: Legs): ScaleDrawing {
  const top = Math.max(l.full_m, l.upperTap_m ?? l.full_m) + 0.15 * (l.full_m - l.zero_m)
  const bottom = Math.min(l.zero_m, l.lowerTap_m) - 0.05 * (l.full_m - l.zero_m)
  const lowest = Math.min(bottom, l.transmitter_m) - 0.1 * (l.full_m - l.zero_m)
  const H = (top - lowest) * 1000
  const y = (z: number) => (top - z) * 1000
  const w = H * 0.5
  const cell = H * 0.05
  const tx = w + H * 0.3
  const shapes: Shape[] = []
  if (l.level_m !== null && l.level_m > bottom)
    shapes.push({
      kind: 'rect',
      ink: 'liquid',
      x: 0,
      y: y(Math.min(l.level_m, top)),
      w,
      h: y(bottom) - y(Math.min(l.level_m, top)),
    })
  shapes.push({
    kind: 'line',
    ink: 'plate',
    points:
      l.upperTap_m === null
        ? [
            [0, y(top)],
            [0, y(bottom)],
            [w, y(bottom)],
            [w, y(top)],
          ]
        : [
            [0, y(top)],
            [0, y(bottom)],
            [w, y(bottom)],
            [w, y(top)],
            [0, y(top)],
          ],
  })
  shapes.push({
    kind: 'line',
    ink: 'beam',
    points: [
      [w, y(l.lowerTap_m)],
      [tx - cell * 0.5, y(l.lowerTap_m)],
      [tx - cell * 0.5, y(l.transmitter_m)],
    ],
  })
  if (l.upperTap_m !== null)
    shapes.push(
      {
        kind: 'line',
        ink: 'beam2',
        points: [
          [w, y(l.upperTap_m)],
          [tx + cell * 0.5, y(l.upperTap_m)],
          [tx + cell * 0.5, y(l.transmitter_m)],
        ],
      },
      {
        kind: 'label',
        at: [tx + cell, y((l.upperTap_m + l.transmitter_m) / 2)],
        text: l.lowLeg,
        anchor: 'start',
      },
    )
  shapes.push({
    kind: 'rect',
    ink: 'sensor',
    x: tx - cell,
    y: y(l.transmitter_m) - cell / 2,
    w: 2 * cell,
    h: cell,
  })
  shapes.push({
    kind: 'label',
    at: [tx - cell, y(l.transmitter_m) + cell * 1.4],
    text: 'high   low',
    anchor: 'start',
  })
  for (const [z, says] of [
    [l.zero_m, '0 %'],
    [l.full_m, '100 %'],
  ] as const) {
    shapes.push({
      kind: 'line',
      ink: 'mark',
      points: [
        [-H * 0.04, y(z)],
        [w, y(z)],
      ],
    })
    shapes.push({ kind: 'label', at: [-H * 0.05, y(z) + H * 0.01], text: `${says}  ${z} m`, anchor: 'end' })
  }
  return {
    says: `Lower tap at ${l.lowerTap_m} m${l.upperTap_m === null ? ', open tank' : `, upper tap at ${l.upperTap_m} m, ${l.lowLeg}`}, transmitter at ${l.transmitter_m} m`,
    left: -H * 0.42,
    top: -H * 0.05,
    width: tx + H * 0.75,
    height: H * 1.1,
    shapes,
  }
}
