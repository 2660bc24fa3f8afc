import { join } from 'node:path'
import { defineConfig } from 'vitest/config'

/** Replaces what the others share, and so needs its modules for itself. */
const ALONE = 'src/family/made-up.test.ts'

/**
 * No test asserts a time: on a slow machine the same work may take ten times as long, and one that is called off
 * while it still works in the database takes the next ones of its file down with it.
 */
const testTimeout = 300_000

/** Pure functions keep nothing: a module that one test has loaded serves the next. */
const pure = (name: string) => ({
  test: {
    name,
    root: `./${name}`,
    include: ['**/*.test.ts'],
    exclude: [ALONE],
    environment: 'node',
    isolate: false,
    testTimeout,
  },
})

export default defineConfig({
  test: {
    maxWorkers: '100%',
    // npm run coverage; told also where a test failed.
    coverage: {
      provider: 'v8',
      include: ['{core,contract,server,web}/src/**/*.{ts,vue}'],
      exclude: ['**/*.test.ts', '**/test/**'],
      reporter: ['text-summary', 'html'],
      reportsDirectory: join(import.meta.dirname, 'node_modules/.cache/coverage'),
      reportOnFailure: true,
    },
    projects: [
      pure('core'),
      pure('contract'),
      { test: { name: 'core, alone', root: './core', include: [ALONE], environment: 'node', testTimeout } },
      {
        test: {
          name: 'server',
          root: './server',
          include: ['**/*.test.ts'],
          environment: 'node',
          testTimeout,
          hookTimeout: testTimeout,
          // A database of its own for each file: several at a time; the modules of the server are loaded once.
          isolate: false,
          globalSetup: join(import.meta.dirname, 'server/src/test/database.ts'),
        },
      },
      {
        extends: './web/vite.config.ts',
        test: {
          name: 'web',
          root: './web',
          include: ['{src,building}/**/*.test.ts'],
          environment: 'happy-dom',
          testTimeout,
          server: { deps: { inline: ['vuetify'] } },
        },
      },
    ],
  },
})
