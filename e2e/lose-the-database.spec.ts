import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base } from '@playwright/test'
import pg from 'pg'
import { ensurePostgres } from '../scripts/lib/install.mjs'
import { freePort, startCluster } from '../scripts/lib/postgres.mjs'
import { serve } from '../scripts/lib/serve.mjs'
import { beginWithout, cell, expect } from './setup/technician.ts'

// A server and a database of its own: this journey stops both.
base('database stopped, server killed, session ended: the readings stay and are sent', async ({ page }) => {
  base.setTimeout(240_000)
  const folder = mkdtempSync(join(tmpdir(), 'calm-lose-'))
  chmodSync(folder, 0o755)
  const bin = ensurePostgres()
  const cluster = await startCluster(bin, folder)
  const port = await freePort()
  const options = { url: cluster.url, port, env: { LOG_LEVEL: 'fatal' }, quiet: true }
  let server = await serve(options)
  try {
    await page.goto(`http://127.0.0.1:${port}/sign-in`)
    await page.getByLabel('Sign-in name').fill('wren')
    await page.getByLabel('Password').fill('salt-and-water')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.waitForURL(/\/loops$/)
    await page.goto(`http://127.0.0.1:${port}/loops/PT-202/verify`)
    await page.getByRole('button', { name: 'New verification' }).click()
    await beginWithout(page)
    await cell(page, 'As found', 1, 'Applied').fill('0')
    await cell(page, 'As found', 1, 'Loop').fill('4,01')
    await cell(page, 'As found', 2, 'Applied').focus()
    await expect(page.getByText(/^stored \d\d:\d\d$/)).toBeVisible()

    // The database goes away while a reading is being saved.
    cluster.stop()
    await cell(page, 'As found', 2, 'Applied').fill('21.25')
    await cell(page, 'As found', 2, 'Loop').fill('8,02')
    await cell(page, 'As found', 3, 'Applied').focus()
    await expect(page.getByText('1 kept here, not stored yet.')).toBeVisible()
    await expect(page.getByText(/The database does not answer/)).toBeVisible()
    await startCluster(bin, folder, cluster.port)
    await expect(page.getByText('kept here, not stored yet')).toHaveCount(0, { timeout: 20_000 })

    // The server is killed; what was typed meanwhile waits.
    process.kill(server.pid, 'SIGKILL')
    await server.gone
    await cell(page, 'As found', 3, 'Applied').fill('42.5')
    await cell(page, 'As found', 3, 'Loop').fill('12,03')
    await cell(page, 'As found', 4, 'Applied').focus()
    await expect(page.getByText('The server cannot be reached.')).toBeVisible()
    server = await serve(options)
    await expect(page.getByText('kept here, not stored yet')).toHaveCount(0, { timeout: 20_000 })

    // The session ends midway.
    const client = new pg.Client({ connectionString: cluster.url })
    await client.connect()
    // Typed before it: the page looks at the server of itself, and asks for the password whenever it hears of it.
    await cell(page, 'As found', 4, 'Applied').fill('63.75')
    await cell(page, 'As found', 4, 'Loop').fill('16,03')
    await client.query('delete from sessions')
    await cell(page, 'As found', 5, 'Applied').focus()
    await expect(page.getByRole('heading', { name: 'Please sign in again' })).toBeVisible()
    await page.getByLabel('Sign-in name').fill('wren')
    await page.getByLabel('Password').fill('salt-and-water')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await expect(page.getByRole('heading', { name: 'Please sign in again' })).toHaveCount(0)
    // The hands go on where they were.
    await expect(page.locator('table input:focus')).toHaveCount(1)
    await expect(cell(page, 'As found', 4, 'Loop')).toHaveValue('16,03')
    // The dialog may have come before they left the row: it is recorded when they do.
    await cell(page, 'As found', 5, 'Applied').focus()

    // Nothing lost, nothing doubled. A row that the sign-in interrupted is recorded again, with more in it.
    await expect
      .poll(async () => {
        const { rows } = await client.query<{ points: string; doubled: string }>(
          `select count(*) - count(distinct payload::text) doubled, count(distinct payload->>'index') points from events where type = 'reading.recorded' and run_id = (select id from runs order by started_at desc limit 1)`,
        )
        return [Number(rows[0]?.points), Number(rows[0]?.doubled)]
      })
      .toEqual([4, 0])
    await client.end()
  } finally {
    await server.stop()
    cluster.stop()
    rmSync(folder, { recursive: true, force: true })
  }
})
