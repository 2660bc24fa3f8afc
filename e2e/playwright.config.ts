import { defineConfig } from '@playwright/test'
import { ensureChromium } from '../scripts/lib/install.mjs'

export default defineConfig({
  testDir: '.',
  testMatch: '**/*.spec.ts',
  globalSetup: './setup/server.ts',
  workers: 2,
  fullyParallel: false,
  // What hangs is told by the one expectation that waits for it. How long a whole journey takes says
  // only how busy the machine is: the longest takes half a minute here, and twice that on a slow one.
  timeout: 240_000,
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json', { outputFile: '../node_modules/.cache/e2e.json' }]],
  outputDir: '../node_modules/.cache/e2e-results',
  use: {
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
    acceptDownloads: true,
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: ensureChromium(),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-dev-shm-usage',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    trace: 'retain-on-failure',
    screenshot: 'only-on-failure',
  },
})
