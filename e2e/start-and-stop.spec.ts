import { spawn, type ChildProcess } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect } from '@playwright/test'
import { freePort } from '../scripts/lib/postgres.mjs'

const ROOT = join(import.meta.dirname, '..')

interface Started {
  readonly child: ChildProcess
  readonly port: number
  readonly said: () => string
  readonly answers: () => Promise<boolean>
}

async function start(dataDir: string): Promise<Started> {
  const port = await freePort()
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: ROOT,
    env: { ...process.env, PORT: String(port), CALM_DATA_DIR: dataDir },
  })
  let text = ''
  child.stdout.on('data', (d: Buffer) => (text += d.toString()))
  child.stderr.on('data', (d: Buffer) => (text += d.toString()))
  const answers = () =>
    fetch(`http://127.0.0.1:${port}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
  await expect.poll(() => text, { timeout: 60_000 }).toContain(`Calm Loop is at http://127.0.0.1:${port}`)
  expect(await answers()).toBe(true)
  return { child, port, said: () => text, answers }
}

const gone = (child: ChildProcess) => new Promise<number | null>((done) => child.on('exit', done))
const postmaster = (dataDir: string) =>
  Number(readFileSync(join(dataDir, 'pg/postmaster.pid'), 'utf8').split('\n')[0])

/** The child of a process that runs a program. */
function childOf(pid: number, program: string): number {
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ')
  const found = children.find((c) => readFileSync(`/proc/${c}/cmdline`, 'utf8').includes(program))
  return Number(found)
}
/** Whether the process that its pid file names is there. */
const alive = (dataDir: string) => {
  try {
    return process.kill(postmaster(dataDir), 0)
  } catch {
    return false
  }
}

base('npm start survives kills of the starter and of the database, and stops in order', async () => {
  base.setTimeout(180_000)
  const dataDir = mkdtempSync(join(tmpdir(), 'calm-start-'))
  chmodSync(dataDir, 0o755)
  try {
    const first = await start(dataDir)
    expect(first.said()).toContain('wren')

    // The database is killed under it: it comes back on its port by itself.
    process.kill(postmaster(dataDir), 'SIGKILL')
    await expect.poll(first.said, { timeout: 10_000 }).toContain('The database has stopped')
    await expect.poll(() => alive(dataDir), { timeout: 30_000 }).toBe(true)
    await expect.poll(first.answers, { timeout: 30_000 }).toBe(true)

    // The starter is killed: the server gives its port free, the database is found again.
    first.child.kill('SIGKILL')
    await gone(first.child)
    await expect.poll(first.answers, { timeout: 10_000 }).toBe(false)
    const second = await start(dataDir)

    // Both are killed and a pid file of a stranger is left behind.
    process.kill(postmaster(dataDir), 'SIGKILL')
    second.child.kill('SIGKILL')
    await gone(second.child)
    const pidFile = join(dataDir, 'pg/postmaster.pid')
    writeFileSync(pidFile, readFileSync(pidFile, 'utf8').replace(/^\d+/, String(process.pid)))
    const third = await start(dataDir)

    // A server that falls is started again, and it is said.
    const server = childOf(third.child.pid ?? 0, 'server/dist/main.js')
    process.kill(server, 'SIGKILL')
    await expect.poll(third.said, { timeout: 20_000 }).toContain(`Calm Loop is back at`)
    expect(third.said()).toContain('The server has stopped')
    expect(await third.answers()).toBe(true)

    // A second start on the same folder is refused in a sentence, and the first one goes on.
    expect(await refusal({ CALM_DATA_DIR: dataDir })).toMatch(/^Calm Loop runs on .* already \(process \d+\)/)
    expect(await third.answers()).toBe(true)

    // Stopped with Ctrl-C, server and database end and nothing is left behind.
    third.child.kill('SIGINT')
    expect(await gone(third.child)).toBe(0)
    expect(await third.answers()).toBe(false)
    expect(existsSync(pidFile)).toBe(false)
  } finally {
    rmSync(dataDir, { recursive: true, force: true })
  }
})

/** What a start that cannot be says: one sentence, and no trace. */
async function refusal(env: Record<string, string>): Promise<string> {
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: ROOT,
    env: { ...process.env, PORT: String(await freePort()), ...env },
  })
  let text = ''
  child.stderr.on('data', (d: Buffer) => (text += d.toString()))
  expect(await gone(child)).toBe(1)
  expect(text).not.toMatch(/^\s+at /m)
  expect(text.trim().split('\n')).toHaveLength(1)
  return text.trim()
}

base('a service manager’s word ends server and database in order', async () => {
  base.setTimeout(120_000)
  const dataDir = mkdtempSync(join(tmpdir(), 'calm-term-'))
  chmodSync(dataDir, 0o755)
  const port = await freePort()
  const npm = spawn('npm', ['start', '--silent'], {
    cwd: ROOT,
    env: { ...process.env, PORT: String(port), CALM_DATA_DIR: dataDir },
    stdio: 'ignore',
  })
  const answers = () =>
    fetch(`http://127.0.0.1:${port}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
  try {
    await expect.poll(answers, { timeout: 60_000 }).toBe(true)
    // The day’s backup is made by itself.
    const backups = join(dataDir, 'backups')
    await expect
      .poll(() => existsSync(backups) && readdirSync(backups).some((n) => /^daily-.*\.jsonl\.gz$/.test(n)), {
        timeout: 30_000,
      })
      .toBe(true)
    // As a service manager does: npm alone is told.
    npm.kill('SIGTERM')
    await expect.poll(answers, { timeout: 15_000 }).toBe(false)
    await expect.poll(() => existsSync(join(dataDir, 'pg/postmaster.pid')), { timeout: 15_000 }).toBe(false)
    await expect.poll(() => existsSync(join(dataDir, 'starter.pid'))).toBe(false)
  } finally {
    rmSync(dataDir, { recursive: true, force: true })
  }
})

base('what cannot start says so in one sentence', async () => {
  base.setTimeout(120_000)
  const url = new URL(process.env['CALM_E2E_DATABASE'] ?? '')
  const other = (change: (u: URL) => void) => {
    const u = new URL(url)
    change(u)
    return u.toString()
  }
  const DATABASE_URL = other((u) => (u.port = '1'))
  expect(await refusal({ DATABASE_URL })).toMatch(/nothing listens there\. Check DATABASE_URL\.$/)
  expect(await refusal({ DATABASE_URL: other((u) => (u.password = 'no')) })).toMatch(/do not belong together/)
  expect(await refusal({ DATABASE_URL: 'somewhere' })).toMatch(/must look like postgres:/)
  expect(await refusal({ CALM_DATA_DIR: '/dev/null/data' })).toMatch(/cannot be written \(ENOTDIR\)/)
  // Found out after the database was started: it is stopped again.
  const CALM_DATA_DIR = mkdtempSync(join(tmpdir(), 'calm-proxy-'))
  chmodSync(CALM_DATA_DIR, 0o755)
  expect(await refusal({ CALM_DATA_DIR, CALM_PROXY: 'foo' })).toMatch(/CALM_PROXY holds “foo”/)
  expect(existsSync(join(CALM_DATA_DIR, 'pg/postmaster.pid'))).toBe(false)
  rmSync(CALM_DATA_DIR, { recursive: true, force: true })
  expect(await refusal({ PORT: 'x' })).toMatch(/PORT is “x”/)
})

base('a port that is taken is told in a sentence', async () => {
  const dataDir = mkdtempSync(join(tmpdir(), 'calm-port-'))
  chmodSync(dataDir, 0o755)
  const url = new URL(process.env['CALM_E2E_URL'] ?? '')
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: ROOT,
    env: {
      ...process.env,
      PORT: url.port,
      CALM_DATA_DIR: dataDir,
      DATABASE_URL: process.env['CALM_E2E_DATABASE'],
    },
  })
  let text = ''
  child.stderr.on('data', (d: Buffer) => (text += d.toString()))
  expect(await gone(child)).toBe(1)
  expect(text).toContain(`Port ${url.port} is in use.`)
  rmSync(dataDir, { recursive: true, force: true })
})
