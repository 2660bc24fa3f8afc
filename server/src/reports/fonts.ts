import { createRequire } from 'node:module'
import { dirname, join, sep } from 'node:path'
import pdfmake from 'pdfmake'

const require = createRequire(import.meta.url)
const folder = (name: string) => dirname(require.resolve(`${name}/package.json`))

let ready = false

/** Tells the PDF library its fonts once; it may read them and nothing else. */
export function pdfLibrary(): typeof pdfmake {
  if (ready) return pdfmake
  const text = folder('@expo-google-fonts/atkinson-hyperlegible-next')
  const mono = folder('@expo-google-fonts/atkinson-hyperlegible-mono')
  const t = (weight: string) => join(text, weight, `AtkinsonHyperlegibleNext_${weight}.ttf`)
  const m = (weight: string) => join(mono, weight, `AtkinsonHyperlegibleMono_${weight}.ttf`)
  pdfmake.addFonts({
    Text: {
      normal: t('400Regular'),
      bold: t('700Bold'),
      italics: t('400Regular'),
      bolditalics: t('700Bold'),
    },
    Mono: {
      normal: m('400Regular'),
      bold: m('600SemiBold'),
      italics: m('400Regular'),
      bolditalics: m('600SemiBold'),
    },
  })
  pdfmake.setUrlAccessPolicy(() => false)
  pdfmake.setLocalAccessPolicy((path: string) => path.startsWith(text + sep) || path.startsWith(mono + sep))
  ready = true
  return pdfmake
}
