import { build } from 'esbuild'
import { bundled } from './bundled.mjs'

await build({
  ...bundled(['main', 'worker', 'prepare', 'check-chain', 'check-package', 'backup', 'restore']),
  outdir: 'dist',
  sourcemap: true,
})
