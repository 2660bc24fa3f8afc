import { spawn } from 'node:child_process'
import { readdirSync, readFileSync, readlinkSync } from 'node:fs'
import { join } from 'node:path'
import { freePort } from '../scripts/lib/postgres.mjs'
import type { Figure } from './report.ts'

const ROOT = join(import.meta.dirname, '..')

async function start(dataDir: string): Promise<{ ms: number; rss_MB: number }> {
  const port = await freePort()
  const begun = performance.now()
  const child = spawn('npm', ['start', '--silent'], {
    cwd: ROOT,
    stdio: 'ignore',
    detached: true,
    env: { ...process.env, PORT: String(port), CALM_DATA_DIR: dataDir },
  })
  for (;;) {
    const ok = await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
    if (ok) break
    await new Promise((r) => setTimeout(r, 50))
  }
  const ms = performance.now() - begun
  await new Promise((r) => setTimeout(r, 3000))
  const pid = spawnedServer(port)
  const rss = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))
  if (child.pid) process.kill(-child.pid, 'SIGTERM')
  await new Promise((r) => child.on('exit', r))
  return { ms, rss_MB: Number(rss?.[1] ?? 0) / 1024 }
}

/** The process that listens on a port, from the system's own tables. */
function spawnedServer(port: number): number {
  const hex = port.toString(16).toUpperCase().padStart(4, '0')
  const line = readFileSync('/proc/net/tcp', 'utf8')
    .split('\n')
    .find((l) => new RegExp(`:${hex} 00000000:0000 0A`).test(l))
  const inode = line?.trim().split(/\s+/)[9]
  for (const pid of readdirNumbers('/proc'))
    try {
      for (const fd of readdirSync(`/proc/${pid}/fd`))
        if (readlinkSync(`/proc/${pid}/fd/${fd}`) === `socket:[${inode}]`) return pid
    } catch {
      // The process ended, or is not ours.
    }
  throw new Error('no process listens')
}
const readdirNumbers = (dir: string) =>
  readdirSync(dir)
    .map(Number)
    .filter((n) => n > 0)

export async function startFigures(dataDir: string): Promise<Figure[]> {
  await start(dataDir)
  const second = await start(dataDir)
  return [
    {
      title: 'second npm start to a first answer',
      measured: `${(second.ms / 1000).toFixed(1)} s`,
      against: '8 s allowed',
      ratio: second.ms / 8000,
      wanted: 'at most 1',
    },
    {
      title: 'memory of the server at rest',
      measured: `${second.rss_MB.toFixed(0)} MB`,
      against: '200 MB allowed',
      ratio: second.rss_MB / 200,
      wanted: 'below 1',
    },
  ]
}
