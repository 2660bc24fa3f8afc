import { calculationNamed } from '@calm/core/catalogue'
import { ProcedureClient } from './procedure-client.ts'
import { percentile, type Figure } from './report.ts'

const LASTS_MS = 12_000
const ALLOWED_MS = 50

/** How long health takes while the server does something heavy again and again, four at a time. */
async function healthDuring(
  base: string,
  heavy: () => Promise<unknown>,
): Promise<{ p99_ms: number; done: number }> {
  const until = performance.now() + LASTS_MS
  let done = 0
  const worker = async () => {
    while (performance.now() < until) {
      await heavy()
      done += 1
    }
  }
  const took: number[] = []
  const look = async () => {
    while (performance.now() < until) {
      const begun = performance.now()
      await (await fetch(`${base}/api/health`)).arrayBuffer()
      took.push(performance.now() - begun)
      await new Promise((r) => setTimeout(r, 10))
    }
  }
  await Promise.all([look(), worker(), worker(), worker(), worker()])
  return { p99_ms: percentile(took, 99), done }
}

/** Nothing heavy is done on the thread that answers everybody. */
export async function healthFigures(base: string): Promise<Figure[]> {
  const client = new ProcedureClient(base)
  await client.signIn()
  const tank = calculationNamed('tank.characterize')?.example
  const get = (path: string) => async () => {
    const res = await fetch(base + path, { headers: { cookie: client.session } })
    await res.arrayBuffer()
  }
  const heavy: [string, () => Promise<unknown>][] = [
    ['nothing', () => new Promise((r) => setTimeout(r, 100))],
    ['tank.characterize', () => client.ask('POST', '/api/calc/tank.characterize', tank)],
    ['a package is made', get('/api/loops/PT-202/package.zip')],
  ]
  const figures: Figure[] = []
  for (const [what, work] of heavy) {
    const { p99_ms, done } = await healthDuring(base, work)
    figures.push({
      title: `health while ${what} runs (${done} times), p99`,
      measured: `${p99_ms.toFixed(1)} ms`,
      against: `${ALLOWED_MS} ms allowed`,
      ratio: p99_ms / ALLOWED_MS,
      wanted: 'at most 1',
    })
  }
  return figures
}
