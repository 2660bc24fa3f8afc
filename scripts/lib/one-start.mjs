import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { giveUp } from './say.mjs'

const FILE = 'starter.pid'

/** Whether a process is one of our starters. @param {string} pid */
function isStarter(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('scripts/start.mjs')
  } catch {
    return false
  }
}

/**
 * Takes a folder for this starter alone: two on one folder would each stop the other's database.
 * @param {string} dataDir @returns {() => void} gives it back
 */
export function takeFolder(dataDir) {
  const file = join(dataDir, FILE)
  try {
    mkdirSync(dataDir, { recursive: true })
    for (let tries = 0; tries < 2; tries++)
      try {
        const fd = openSync(file, 'wx', 0o644)
        writeSync(fd, String(process.pid))
        closeSync(fd)
        return () => rmSync(file, { force: true })
      } catch (error) {
        if (/** @type {NodeJS.ErrnoException} */ (error).code !== 'EEXIST') throw error
        const pid = readFileSync(file, 'utf8').trim()
        if (isStarter(pid))
          giveUp(
            `Calm Loop runs on ${dataDir} already (process ${pid}). Stop that one, or choose another folder with CALM_DATA_DIR.`,
          )
        // Left by one that was killed.
        rmSync(file, { force: true })
      }
  } catch (error) {
    giveUp(
      `The folder ${dataDir} cannot be written (${/** @type {NodeJS.ErrnoException} */ (error).code}). Choose another with CALM_DATA_DIR=/path npm start.`,
    )
  }
  return giveUp(`Another start on ${dataDir} was faster.`)
}
