// npm run bench fuzz [BODIES]: hostile bodies to every endpoint and calculation; no 5xx, nothing slow, every refusal
// with its place, and the health of the server answered meanwhile.
import { randomUUID } from 'node:crypto'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Generator } from '@calm/core/statistics/generator'
import { ensurePostgres } from '../scripts/lib/install.mjs'
import { freePort, startCluster } from '../scripts/lib/postgres.mjs'
import { serve } from '../scripts/lib/serve.mjs'

const BODIES = Number(process.argv[2] ?? 100_000)
const SLOWEST_MS = 2_500
/** As many at once as there are threads for calculations: what is measured is the work, not a queue. */
const AT_ONCE = 2

const g = new Generator(20_260)
const pick = <T>(list: readonly T[]): T => list[Math.floor(g.uniform() * list.length)] as T

/** Values that people, programs and attackers send. */
const HOSTILE: readonly (() => unknown)[] = [
  () => null,
  () => true,
  () => -0,
  () => 1e308,
  () => -1e308,
  () => 1e30,
  () => 1e-308,
  () => 5e-324,
  () => Math.floor(1e16 * g.uniform()),
  () => 2 ** 53,
  () => '',
  () => 'x'.repeat(5_000),
  () => 'a\0b',
  () => '\ud800',
  () => '1e400',
  () => '-1+1',
  () => "'; drop table events; --",
  () => "$'",
  () => '__proto__',
  () => '../../etc/passwd',
  () => '2090-01-01T00:00:00Z',
  () => '0001-01-01T00:00:00Z',
  () => randomUUID(),
  () => [],
  () => Array.from({ length: 2_000 }, () => 1),
  () => Array.from({ length: 300 }, (_, i) => [i, 1e300]),
  () => ({}),
  () => ({ constructor: { prototype: { x: 1 } } }),
  () => {
    let deep: unknown = 1
    for (let i = 0; i < 60; i++) deep = [deep]
    return deep
  },
]
/** Numbers near the ones that are meant, and far from them. */
const near = (x: number): number => x * pick([1, 1, -1, 0, 1e-12, 1e-3, 10, 1e3, 1e9, 1e30, 1e200])

/** A body with one or several of its values made hostile. */
function mutated(x: unknown, share: number): unknown {
  if (g.uniform() < share) return typeof x === 'number' && g.uniform() < 0.6 ? near(x) : pick(HOSTILE)()
  if (Array.isArray(x)) return x.map((y) => mutated(y, share))
  if (typeof x === 'object' && x !== null)
    return Object.fromEntries(
      Object.entries(x).flatMap(([k, v]) =>
        g.uniform() < share / 4 ? [] : [[k, mutated(v, share)] as const],
      ),
    )
  return x
}
/** Texts that are no JSON of ours at all. */
const RAW = [
  '{',
  '[1,2',
  '{"mA":1e400}',
  '{"__proto__":{"x":1}}',
  '['.repeat(100_000),
  '{"a":'.repeat(5_000),
  '\u0000',
  '"\\ud800"',
  'NaN',
]

const folder = mkdtempSync(join(tmpdir(), 'calm-fuzz-'))
chmodSync(folder, 0o755)
const cluster = await startCluster(ensurePostgres(), folder)
const port = await freePort()
const server = await serve({ url: cluster.url, port, env: { LOG_LEVEL: 'fatal' }, quiet: true })
const base = `http://127.0.0.1:${port}`
let fell = false
void server.gone.then(() => (fell = true))

const signedIn = await fetch(`${base}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ name: 'heron', password: 'salt-and-water' }),
})
const cookie = signedIn.headers.getSetCookie()[0]?.split(';')[0] ?? ''
const get = async <T>(path: string): Promise<T> =>
  (await (await fetch(base + path, { headers: { cookie } })).json()) as T

interface Target {
  readonly method: string
  readonly path: () => string
  readonly body: () => unknown
}
const calculations = await get<{ name: string; example: unknown }[]>('/api/calc')
const { paths } = await get<{ paths: Record<string, Record<string, { requestBody?: unknown }>> }>(
  '/api/openapi.json',
)
const loops = await get<{ tag: string; id: string }[]>('/api/loops')
const details = await Promise.all(
  loops.slice(0, 8).map((l) => get<{ document: unknown; revision: number }>(`/api/loops/${l.tag}`)),
)
/** Something like what each endpoint expects, to be made hostile. */
const like = (path: string): unknown => {
  const { document, revision } = pick(details)
  const at = new Date().toISOString()
  if (path.endsWith('/document')) return { base: revision, document, reason: 'x' }
  if (path === '/api/loops') return { id: randomUUID(), document }
  if (path.endsWith('/events'))
    return {
      events: [
        {
          id: randomUUID(),
          runId: randomUUID(),
          at,
          body: {
            type: pick(['run.started', 'reading.recorded', 'signed', 'procedure.started', 'procedure.step']),
            payload: {
              plan: 'P3',
              revision,
              phase: 'asFound',
              index: 0,
              values: { pv: { value: 1, typed: '1' } },
              equipment: [],
            },
          },
        },
      ],
    }
  if (path.includes('/device/commands'))
    return { id: randomUUID(), command: { kind: 'apply', value: 1, over_s: 5 } }
  if (path.includes('/loop-list'))
    return { id: randomUUID(), text: 'Tag;Service;LRV;URV;Unit\nA-1;x;0;1;bar g\n', update: [] }
  return {
    id: randomUUID(),
    at,
    revision,
    name: 'x',
    kind: 'tank',
    note: '',
    values: {},
    levels: [{ values: { MA: 12 }, dir: 1 }],
  }
}
const others: Target[] = Object.entries(paths).flatMap(([path, methods]) =>
  path.startsWith('/api/calc') || path === '/api/live' || path.startsWith('/api/session')
    ? []
    : Object.keys(methods).map((method) => ({
        method: method.toUpperCase(),
        path: () =>
          path.replace(/\{(\w+)\}/g, () =>
            pick([
              pick(loops).tag,
              pick(loops).id,
              randomUUID(),
              '%00',
              '..%2f..',
              '__proto__',
              'x'.repeat(90),
              'ä',
              '%E0%A4%A',
            ]),
          ),
        body: () => like(path),
      })),
)
const targets: Target[] = calculations.map((c) => ({
  method: 'POST',
  path: () => `/api/calc/${c.name}`,
  body: () => c.example,
}))

let [sent, failures, slow, withoutPlace, slowest] = [0, 0, 0, 0, 0]
/** Calculations that had to be ended. */
const ended = new Map<string, number>()
const examples: string[] = []
const tell = (why: string, t: string, body: string) => {
  if (examples.length < 12) examples.push(`${why}: ${t} ${body.slice(0, 300)}`)
}
async function attack(list: readonly Target[], until: number): Promise<void> {
  while (sent < until && !fell) {
    sent++
    const t = pick(list)
    const path = t.path()
    const raw =
      t.method === 'GET'
        ? undefined
        : g.uniform() < 0.05
          ? pick(RAW)
          : JSON.stringify(mutated(t.body(), pick([0.02, 0.1, 0.5])))
    const began = performance.now()
    try {
      const res = await fetch(base + path, {
        method: t.method,
        headers: {
          cookie,
          ...(raw === undefined
            ? {}
            : { 'content-type': path === '/api/packages' ? 'application/zip' : 'application/json' }),
        },
        ...(raw === undefined ? {} : { body: raw }),
        signal: AbortSignal.timeout(20_000),
      })
      const text = await res.text()
      const ms = performance.now() - began
      slowest = Math.max(slowest, ms)
      if (ms > SLOWEST_MS) {
        slow++
        tell(`${ms.toFixed(0)} ms`, `${t.method} ${path}`, raw ?? '')
      }
      if (/does not come to an end/.test(text)) {
        ended.set(path, (ended.get(path) ?? 0) + 1)
        tell(`ended after ${ms.toFixed(0)} ms`, path, raw ?? '')
      }
      if (res.status >= 500) {
        failures++
        tell(String(res.status), `${t.method} ${path}`, raw ?? '')
      }
      if ((res.status === 422 || res.status === 400) && !/"errors":\[\{"path":/.test(text)) {
        withoutPlace++
        tell(`${res.status} without a place: ${text.slice(0, 120)}`, `${t.method} ${path}`, raw ?? '')
      }
    } catch (error) {
      failures++
      tell(error instanceof Error ? error.message : 'failed', `${t.method} ${path}`, raw ?? '')
    }
  }
}
/** Asks for health all the while. @returns how long 99 of 100 answers took at most, ms */
async function healthDuring(work: () => Promise<unknown>): Promise<number> {
  const health: number[] = []
  let done = false
  const asking = (async () => {
    while (!done) {
      const began = performance.now()
      await fetch(`${base}/api/health`).then(
        (r) => r.text(),
        () => undefined,
      )
      health.push(performance.now() - began)
      await new Promise((r) => setTimeout(r, 20))
    }
  })()
  await work()
  done = true
  await asking
  health.sort((x, y) => x - y)
  return health[Math.floor(0.99 * health.length)] ?? 0
}
const attacks = (list: readonly Target[], until: number) =>
  Promise.all(Array.from({ length: AT_ONCE }, () => attack(list, until)))
const HEALTH_MS = 50
const p99 = await healthDuring(() => attacks(targets, Math.round(BODIES * 0.6)))
const p99Endpoints = await healthDuring(() => attacks(others, BODIES))
const stayed = !fell

await server.stop()
cluster.stop()
rmSync(folder, { recursive: true, force: true })
for (const e of examples) console.log(e)
console.log(
  `${sent} bodies to ${calculations.length} calculations and ${others.length} endpoints: ${failures} failures, ${slow} over ${SLOWEST_MS} ms (slowest ${slowest.toFixed(0)} ms), ${withoutPlace} refusals without a place; health p99 ${p99.toFixed(1)} ms with the pool busy, ${p99Endpoints.toFixed(1)} ms under the endpoints; ended: ${[...ended].map(([n, c]) => `${c} ${n}`).join(', ') || 'none'}; the server ${stayed ? 'stayed' : 'fell'}.`,
)
process.exitCode = failures + slow + withoutPlace === 0 && stayed && p99 < HEALTH_MS ? 0 : 1
