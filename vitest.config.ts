import { join } from 'node:path'
import { defineConfig } from 'vitest/config'

const node = (name: string) => ({
  test: { name, root: `./${name}`, include: ['**/*.test.ts'], environment: 'node' },
})

export default defineConfig({
  test: {
    projects: [
      node('core'),
      node('contract'),
      {
        test: {
          name: 'server',
          root: './server',
          include: ['**/*.test.ts'],
          environment: 'node',
          testTimeout: 30_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          globalSetup: join(import.meta.dirname, 'server/src/test/database.ts'),
        },
      },
      {
        extends: './web/vite.config.ts',
        test: {
          name: 'web',
          root: './web',
          include: ['src/**/*.test.ts'],
          environment: 'happy-dom',
          server: { deps: { inline: ['vuetify'] } },
        },
      },
    ],
  },
})
