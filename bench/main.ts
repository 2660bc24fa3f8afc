// Every figure as a ratio against a floor or a limit in the same run; nothing here fails a build.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensurePostgres } from '../scripts/lib/install.mjs'
import { freePort, startCluster } from '../scripts/lib/postgres.mjs'
import { serve } from '../scripts/lib/serve.mjs'
import { circuitFigures } from './circuit.ts'
import { coreFigures } from './core.ts'
import { backupFigures } from './backup.ts'
import { launched, signIn } from './browser.ts'
import { healthFigures } from './health.ts'
import { importFigures } from './import.ts'
import { judgementFigures } from './judgement.ts'
import { fillPlant, listFigures } from './list.ts'
import { monteCarloFigures } from './monte-carlo.ts'
import { recordFigures } from './record.ts'
import { peopleFigures } from './people.ts'
import { repaintFigures } from './repaint.ts'
import { procedureFigures } from './procedures.ts'
import { print } from './report.ts'
import { sizeFigures } from './sizes.ts'
import { startFigures } from './start.ts'

const folder = mkdtempSync(join(tmpdir(), 'calm-bench-'))
chmodSync(folder, 0o755)
print([...coreFigures(), ...circuitFigures(), ...monteCarloFigures(), ...judgementFigures()])
const cluster = await startCluster(ensurePostgres(), folder)
const port = await freePort()
const server = await serve({ url: cluster.url, port, env: { LOG_LEVEL: 'warn' } })
const browser = await launched()
try {
  const base = `http://127.0.0.1:${port}`
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  print(await sizeFigures(page, base, () => signIn(page)))
  print(await repaintFigures(page, base))
  print(await procedureFigures(base, server.pid))
  print(await healthFigures(base))
  print(await backupFigures(cluster.url, folder))
  await fillPlant(cluster.url)
  print(await listFigures(page, base, cluster.url))
  print(await recordFigures(base, cluster.url))
  print(await peopleFigures(base))
  print(await importFigures(base))
} finally {
  await browser.close()
  await server.stop()
  cluster.stop()
}
print(await startFigures(join(folder, 'start')))
rmSync(folder, { recursive: true, force: true })
