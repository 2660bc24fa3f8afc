import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'

/** Builds the pool's thread alone, for tests and for hot reload. @returns {Promise<string>} the file */
export async function buildWorker() {
  const folder = join(import.meta.dirname, '../node_modules/.cache/calm')
  mkdirSync(folder, { recursive: true })
  const outfile = join(folder, 'worker.mjs')
  await build({
    absWorkingDir: import.meta.dirname,
    entryPoints: ['src/worker.ts'],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    logLevel: 'warning',
  })
  return outfile
}
