import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Logger } from 'pino'
import { dailyBackups } from './backup-file.ts'

const LOOK_EVERY_MS = 600_000

/**
 * One backup a day, thirty kept, made by a process of its own: however large the plant is, nobody waits for it.
 * @returns how to stop looking
 */
export function scheduleBackups(folder: string, url: string, log: Pick<Logger, 'warn' | 'info'>): () => void {
  const program = join(dirname(fileURLToPath(import.meta.url)), 'backup.js')
  let running = false
  let child: ChildProcess | null = null
  function look(): void {
    const today = new Date().toISOString().slice(0, 10)
    if (running || !existsSync(program) || dailyBackups(folder).some((b) => b.day === today)) return
    running = true
    child = spawn(process.execPath, [program, '--daily'], {
      env: { ...process.env, DATABASE_URL: url, CALM_BACKUP_DIR: folder },
      stdio: ['ignore', 'pipe', 'ignore'],
    })
    let says = ''
    child.stdout?.setEncoding('utf8').on('data', (text: string) => (says += text))
    child.on('error', () => (running = false))
    child.on('close', (code) => {
      running = false
      child = null
      if (code === 0) log.info(says.trim())
      else log.warn(`The daily backup was not made: ${says.trim()}`)
    })
  }
  look()
  const timer = setInterval(look, LOOK_EVERY_MS)
  timer.unref()
  return () => {
    clearInterval(timer)
    // The database is about to stop: a half-made file is never taken for a backup.
    child?.kill()
  }
}
