import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'
import { bundled } from './bundled.mjs'

/** Builds the pool's thread alone, for tests and for hot reload. @returns {Promise<string>} the file */
export async function buildWorker() {
  const folder = join(import.meta.dirname, '../node_modules/.cache/calm')
  mkdirSync(folder, { recursive: true })
  await build({ ...bundled(['worker']), outdir: folder, outExtension: { '.js': '.mjs' } })
  return join(folder, 'worker.mjs')
}
