import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import type { Page } from '@playwright/test'
import type { Figure } from './report.ts'

const ASSETS = join(import.meta.dirname, '../web/dist/assets')
const gzipped = new Map(readdirSync(ASSETS).map((f) => [f, gzipSync(readFileSync(join(ASSETS, f))).length]))

/** Scripts that a page asked for, by file name. */
async function scriptsOf(page: Page, visit: () => Promise<void>): Promise<Set<string>> {
  const asked = new Set<string>()
  const note = (r: { url: () => string }) => {
    const file = /\/assets\/([^/?]+\.js)$/.exec(r.url())?.[1]
    if (file) asked.add(file)
  }
  page.on('request', note)
  await visit()
  page.off('request', note)
  return asked
}

const sum = (files: Iterable<string>) => [...files].reduce((n, f) => n + (gzipped.get(f) ?? 0), 0)

export async function sizeFigures(page: Page, base: string, signIn: () => Promise<void>): Promise<Figure[]> {
  const first = await scriptsOf(page, async () => {
    await page.goto(`${base}/sign-in`, { waitUntil: 'networkidle' })
  })
  await signIn()
  const loop = await scriptsOf(page, async () => {
    await page.goto(`${base}/loops/PT-202/verify`)
    await page.getByText('As found').first().waitFor()
  })
  const own = [...loop].filter((f) => !first.has(f))
  const kB = (n: number) => `${(n / 1024).toFixed(0)} KB`
  return [
    {
      title: 'sign-in page, script, gzipped',
      measured: kB(sum(first)),
      against: '200 KB allowed',
      ratio: sum(first) / 204_800,
      wanted: 'at most 1',
    },
    {
      title: 'loop page with Verify, further script, gzipped',
      measured: kB(sum(own)),
      against: '150 KB allowed',
      ratio: sum(own) / 153_600,
      wanted: 'at most 1',
    },
  ]
}
