import { readFileSync } from 'node:fs'

/**
 * How a program of the server is put together: its own sources in one piece, packages beside it, and what is loaded
 * late in pieces of its own.
 * @param {string[]} programs
 * @returns {import('esbuild').BuildOptions}
 */
export function bundled(programs) {
  const { dependencies } = JSON.parse(readFileSync(new URL('package.json', import.meta.url), 'utf8'))
  return {
    absWorkingDir: import.meta.dirname,
    entryPoints: programs.map((name) => `src/${name}.ts`),
    bundle: true,
    splitting: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    external: Object.keys(dependencies).filter((name) => !name.startsWith('@calm/')),
    logLevel: 'warning',
  }
}
