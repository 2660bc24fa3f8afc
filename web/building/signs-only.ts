import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import subsetFont from 'subset-font'
import type { Plugin } from 'vite'

/**
 * The signs that the sheet of styles asks the face of signs for, read from there: what it asks for and what is shipped
 * cannot differ.
 * @throws where the sheet names no such face
 */
export function signsAsked(css: string): string {
  const face = /font-family: 'Calm Signs';[^}]*unicode-range:([^;]+);/.exec(css)?.[1]
  if (face === undefined) throw new Error('The sheet of styles names no signs.')
  return [...face.matchAll(/U\+([0-9A-F]+)(?:-([0-9A-F]+))?/g)]
    .flatMap(([, from = '', to = from]) => {
      const [first, last] = [parseInt(from, 16), parseInt(to, 16)]
      return Array.from({ length: last - first + 1 }, (_, i) => String.fromCodePoint(first + i))
    })
    .join('')
}
export const sheetOfStyles = (): string =>
  readFileSync(join(import.meta.dirname, '../src/app/base.css'), 'utf8')

/** Ships the face of signs with the signs only: an ohm sign on a page is not worth 140 KB. */
export function signsOnly(): Plugin {
  return {
    name: 'calm-signs-only',
    apply: 'build',
    async generateBundle(_, bundle) {
      const signs = signsAsked(sheetOfStyles())
      for (const asset of Object.values(bundle))
        if (asset.type === 'asset' && asset.fileName.includes('dejavu-mono'))
          asset.source = await subsetFont(Buffer.from(asset.source), signs, { targetFormat: 'woff2' })
    },
  }
}
