import { readFileSync } from 'node:fs'
import { build } from 'esbuild'

const { dependencies } = JSON.parse(readFileSync(new URL('package.json', import.meta.url), 'utf8'))

await build({
  absWorkingDir: import.meta.dirname,
  entryPoints: ['main', 'worker', 'prepare', 'check-chain', 'check-package', 'backup', 'restore'].map(
    (name) => `src/${name}.ts`,
  ),
  outdir: 'dist',
  bundle: true,
  splitting: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  external: Object.keys(dependencies).filter((name) => !name.startsWith('@calm/')),
  logLevel: 'warning',
})
