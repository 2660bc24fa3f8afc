import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join, relative, resolve } from 'node:path'
import { describe, expect, test } from 'vitest'

const ROOT = resolve(import.meta.dirname, '../..')
const files = (dir: string): string[] =>
  readdirSync(join(ROOT, dir), { recursive: true, encoding: 'utf8' })
    .filter(
      (f) => /\.(ts|vue)$/.test(f) && !/\.test\.ts$|(^|\/)test\//.test(f) && !/node_modules|dist/.test(f),
    )
    .map((f) => join(dir, f))
/** What a file imports: at its head, for its side effects, or later by `import()`. */
const importsOf = (file: string): string[] =>
  [
    ...readFileSync(join(ROOT, file), 'utf8').matchAll(
      /\bfrom\s+['"]([^'"\s]+)['"]|(?:^|\n)import\s+['"]([^'"]+)['"]|\bimport\(\s*['"]([^'"]+)['"]/g,
    ),
  ].map((m) => m[1] ?? m[2] ?? m[3] ?? '')
/** The files among them, from the root. */
const filesImported = (file: string): string[] =>
  importsOf(file)
    .filter((i) => i.startsWith('.'))
    .map((i) => relative(ROOT, resolve(ROOT, file, '..', i)))

/** Areas of the core, lowest first: an area imports only itself and those before it. */
const AREAS = [
  'numeric',
  'quantity',
  'statistics',
  'logs',
  'plan',
  'signal',
  'circuit',
  'media',
  'tank',
  'manifold',
  'transmitter',
  'part',
  'verify',
  'trim',
  'device',
  'signing',
  'procedure',
  'sensor',
  'family',
  'loop',
  'wire',
  'scale',
  'survey',
  'record',
  'loop-list',
  'today',
  'sums',
]
/** What every area may import, and what imports them all. */
const AT_THE_ROOT = [
  'refused.ts',
  'finding.ts',
  'harmless-cell.ts',
  'calculation.ts',
  'chart.ts',
  'catalogue.ts',
  'paper.ts',
  'plain-issues.ts',
]
/**
 * Where a list of all families is asked for from below it: the stand-in and the engine know none by name. And
 * things that acts join: the loop's summary folds records, audits ranges and judges readings.
 */
const ABOVE: Readonly<Record<string, readonly string[]>> = {
  'core/src/device/stand-in.ts': ['family'],
  'core/src/procedure/catalogue.ts': ['family'],
  'core/src/loop/summary.ts': ['scale', 'record', 'wire'],
  'core/src/verify/read-readings.ts': ['record'],
}

describe('dependencies point one way', () => {
  test('the core imports zod and itself, nothing else', () => {
    for (const file of files('core/src'))
      expect([file, importsOf(file).filter((i) => i !== 'zod' && !i.startsWith('.'))]).toEqual([file, []])
  })
  test('in the core an area imports only areas before it, wherever in the area the file lies', () => {
    const areaOf = (file: string) => relative('core/src', file).split('/')[0] ?? ''
    const seen = files('core/src').filter((f) => AREAS.includes(areaOf(f)))
    expect(files('core/src').filter((f) => !seen.includes(f) && !AT_THE_ROOT.includes(areaOf(f)))).toEqual([])
    for (const file of seen) {
      const area = areaOf(file)
      const upwards = filesImported(file)
        .map(areaOf)
        .filter((a) => a === 'catalogue.ts' || AREAS.indexOf(a) > AREAS.indexOf(area))
        .filter((a) => !(ABOVE[file] ?? []).includes(a))
      expect([file, upwards]).toEqual([file, []])
    }
  })
  test('the calculations of every family are in their list', () => {
    const own = files('core/src/family')
      .map((f) => relative('core/src/family', f))
      .filter((f) => /^[^/]+\/calculations\.ts$/.test(f))
    expect(own.length).toBeGreaterThan(5)
    expect(importsOf('core/src/family/calculations.ts')).toEqual(
      expect.arrayContaining(own.map((f) => `./${f}`)),
    )
  })
  test('no two folders of the server import each other', () => {
    const folders = new Map<string, Set<string>>()
    for (const file of files('server/src')) {
      const folder = relative('server/src', file).split('/')[0] ?? ''
      const others = filesImported(file)
        .map((f) => relative('server/src', f).split('/'))
        .flatMap(([f = '', rest]) => (rest === undefined || f === folder || f === '..' ? [] : [f]))
      if (!folder.endsWith('.ts')) folders.set(folder, new Set([...(folders.get(folder) ?? []), ...others]))
    }
    const pairs = [...folders].flatMap(([a, to]) =>
      [...to].filter((b) => a < b && folders.get(b)?.has(a)).map((b) => `${a} and ${b}`),
    )
    expect(folders.size).toBeGreaterThan(15)
    expect(pairs).toEqual([])
  })
  test('the contract knows the core only; server and web never know each other', () => {
    for (const file of files('contract/src'))
      expect([
        file,
        importsOf(file).filter((i) => i !== 'zod' && !i.startsWith('@calm/core/') && !i.startsWith('.')),
      ]).toEqual([file, []])
    for (const file of [...files('server/src'), ...files('web/src')])
      expect([file, importsOf(file).filter((i) => /@calm\/(server|web)/.test(i))]).toEqual([file, []])
  })
  test('features of the web never import each other', () => {
    for (const file of files('web/src/features')) {
      const feature = relative('web/src/features', file).split('/')[0]
      const others = importsOf(file)
        .filter((i) => i.startsWith('.'))
        .map((i) => relative(join(ROOT, 'web/src/features'), resolve(ROOT, file, '..', i)))
        .filter((i) => !i.startsWith('..') && i.split('/')[0] !== feature)
      expect([file, others]).toEqual([file, []])
    }
  })
  test('only the tokens hold colours', () => {
    for (const file of files('web/src').filter((f) => !f.endsWith('tokens.ts')))
      expect([file, readFileSync(join(ROOT, file), 'utf8').match(/#[0-9a-f]{6}\b/gi)]).toEqual([file, null])
  })
})

/** Letters and digits alone, with the words of a compound name apart: readErrorRows and read-error-rows are one. */
const plainWords = (text: string): string =>
  text
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim()

/** Rows of the glossary: the words of the first column, and the files of the last. */
const glossary = (): { words: string[]; paths: string[] }[] =>
  readFileSync(join(ROOT, 'docs/glossary.md'), 'utf8')
    .split('\n')
    .map((line) => line.split('|').map((cell) => cell.trim()))
    .filter(([, word = '', , where = '']) => where.includes('`') && word !== '')
    .map(([, word = '', , where = '']) => ({
      words: word.split(/[,…]/).map(plainWords).filter(Boolean),
      paths: [...where.matchAll(/`([\w./-]+)`/g)].map((m) => m[1] ?? ''),
    }))

test('every word of the glossary stands in one of its files, or in the name of one', () => {
  const rows = glossary()
  expect(rows.length).toBeGreaterThan(80)
  for (const { words, paths } of rows) {
    expect(paths.filter((p) => !existsSync(join(ROOT, p)))).toEqual([])
    const text = plainWords(paths.map((p) => `${p} ${readFileSync(join(ROOT, p), 'utf8')}`).join(' '))
    expect([paths, words.filter((w) => !text.includes(w))]).toEqual([paths, []])
  }
})
