// Writes docs/licences.md: every installed package that ships, with its version and licence, from its own package file.
import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './lib/install.mjs'

const lock = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'))
const rows = Object.entries(lock.packages)
  .filter(([path, p]) => path.includes('node_modules/') && !p.dev && !p.link && !p.devOptional)
  .map(([path, p]) => [
    path.slice(path.lastIndexOf('node_modules/') + 13),
    p.version,
    p.license ?? 'see its files',
  ])
  .sort(([a], [b]) => a.localeCompare(b))
const text = [
  '# Licences of what ships',
  '',
  'Made by `node scripts/licences.mjs` from `package-lock.json`; packages used only to build and check are left out.',
  '',
  '| package | version | licence |',
  '| --- | --- | --- |',
  ...rows.map((r) => `| ${r.join(' | ')} |`),
  '',
].join('\n')
const file = join(ROOT, 'docs/licences.md')
writeFileSync(file, text)
execFileSync('npx', ['prettier', '--write', file], { cwd: ROOT, stdio: 'ignore' })
console.log(`${rows.length} packages in docs/licences.md`)
