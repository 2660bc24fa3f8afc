import { randomUUID } from 'node:crypto'
import type { Page } from '@playwright/test'
import { address, expect } from './technician.ts'

/** A loop of a journey's own, like one of the plant: what it does to it disturbs no other. */
export async function like(page: Page, tag: string, of: string): Promise<void> {
  const { document } = (await (await page.request.get(address(`/api/loops/${of}`))).json()) as {
    document: Record<string, unknown>
  }
  const made = await page.request.post(address('/api/loops'), {
    data: { id: randomUUID(), document: { ...document, tag, lastCalibrated: null, wiring: null } },
  })
  expect(made.status(), await made.text()).toBe(201)
}
