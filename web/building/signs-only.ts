import subsetFont from 'subset-font'
import type { Plugin } from 'vite'

/** The signs that `app/base.css` asks this face for: micro, Greek, small figures, ohm, arrows, what stands in formulas. */
const SIGNS: readonly [first: number, last: number][] = [
  [0x00b5, 0x00b5],
  [0x0391, 0x03c9],
  [0x2070, 0x2089],
  [0x2126, 0x2126],
  [0x2190, 0x2195],
  [0x2202, 0x2202],
  [0x2206, 0x2206],
  [0x2211, 0x2212],
  [0x221a, 0x221a],
  [0x221e, 0x221e],
  [0x222b, 0x222b],
  [0x2248, 0x2248],
  [0x2260, 0x2265],
]

const signs = SIGNS.flatMap(([first, last]) =>
  Array.from({ length: last - first + 1 }, (_, i) => String.fromCodePoint(first + i)),
).join('')

/** Ships the face of signs with the signs only: an ohm sign on a page is not worth 140 KB. */
export function signsOnly(): Plugin {
  return {
    name: 'calm-signs-only',
    apply: 'build',
    async generateBundle(_, bundle) {
      for (const asset of Object.values(bundle))
        if (asset.type === 'asset' && asset.fileName.includes('dejavu-mono'))
          asset.source = await subsetFont(Buffer.from(asset.source), signs, { targetFormat: 'woff2' })
    },
  }
}
