import { readFileSync } from 'node:fs'
import type { DeviceView } from '@calm/contract/devices'
import { answerTo, ProcedureClient } from './procedure-client.ts'
import { percentile, type Figure } from './report.ts'

const AT_ONCE = 100
const SECONDS = 20
/** A server that was just started has not made its own machine code yet: no plant begins a hundred procedures then. */
const WARM_SECONDS = 15
/** A window looks once a second and is given four readings for it. */
const LOOK_MS = 1000
const STEP_MS = 2000
/** Somebody else looks at the run after so many of its steps. */
const READ_EVERY = 5

/** Processor time a process has used, s. */
function cpu_s(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? []
  return (Number(fields[11]) + Number(fields[12])) / 100
}
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms))

/** A hundred technicians at work: what the server needs, and how late another window hears of a step. */
export async function procedureFigures(base: string, pid: number): Promise<Figure[]> {
  const client = new ProcedureClient(base)
  await client.signIn()
  const loops = await client.loops()
  // Nobody begins in the same moment as ninety-nine others; the stand-ins that are looked at are the demo plant's.
  const runs: { tag: string; loopId: string; device: string; runId: string }[] = []
  for (let i = 0; i < AT_ONCE; i++) {
    const { tag: of, id: device } = loops[i % loops.length] ?? { tag: '', id: '' }
    const tag = `BP-${1000 + i}`
    const loopId = await client.like(tag, of)
    runs.push({ tag, loopId, device, runId: await client.begin(tag, 'loop-check') })
  }
  // Another window that only listens.
  const heard = new Map<string, number[]>()
  const stop = new AbortController()
  const live = await fetch(`${base}/api/live`, { headers: { cookie: client.session }, signal: stop.signal })
  const listening = (async () => {
    const decoder = new TextDecoder()
    for await (const chunk of live.body ?? []) {
      const at = performance.now()
      for (const [, loopId = ''] of decoder.decode(chunk).matchAll(/"loopId":"([^"]+)"/g))
        heard.set(loopId, [...(heard.get(loopId) ?? []), at])
    }
  })().catch(() => undefined)

  const sent: { loopId: string; at: number }[] = []
  let readings = 0
  const warm = performance.now() + WARM_SECONDS * 1000
  const end = warm + SECONDS * 1000
  let before = 0
  void sleep(WARM_SECONDS * 1000).then(() => (before = cpu_s(pid)))
  await Promise.all(
    runs.flatMap(({ tag, loopId, device, runId }, i) => [
      (async () => {
        await sleep((i * LOOK_MS) / AT_ONCE)
        let since = '?since=1e12'
        while (performance.now() < end) {
          const from = performance.now()
          const { status, body } = await client.ask<DeviceView>('GET', `/api/loops/${device}/device${since}`)
          if (status === 200 && from > warm) readings += body.samples.length
          since = `?since=${body.t_s}`
          await sleep(Math.max(0, LOOK_MS - (performance.now() - from)))
        }
      })(),
      (async () => {
        await sleep((i * STEP_MS) / AT_ONCE)
        let id = runId
        let run = await client.run(id)
        for (let step = 1; performance.now() < end; step++) {
          const from = performance.now()
          if (!run?.left[0]) {
            id = await client.begin(tag, 'loop-check')
            run = await client.run(id)
            continue
          }
          const body = answerTo(run.left[0])
          const status = await client.send(tag, id, body)
          if (status === 200) {
            if (from > warm) sent.push({ loopId, at: from })
            run = client.folded(run, body)
          }
          // A window folds what it did itself; what others did it reads.
          if (status !== 200 || step % READ_EVERY === 0) run = await client.run(id)
          await sleep(Math.max(0, STEP_MS - (performance.now() - from)))
        }
      })(),
    ]),
  )
  const seconds = (performance.now() - warm) / 1000
  const used = (cpu_s(pid) - before) / seconds
  await sleep(500)
  stop.abort()
  await listening
  const delays = sent.flatMap(({ loopId, at }) => {
    const next = heard.get(loopId)?.find((t) => t >= at)
    return next === undefined ? [] : [next - at]
  })
  return [
    {
      title: `${AT_ONCE} procedures at once, server’s share of a core`,
      measured: `${used.toFixed(2)} of a core at ${(readings / seconds).toFixed(0)} readings and ${(sent.length / seconds).toFixed(0)} steps a second`,
      against: 'one core',
      ratio: used,
      wanted: 'below 1',
    },
    {
      title: 'a step until another window hears of it, 99th percentile',
      measured: `${percentile(delays, 99).toFixed(0)} ms over ${delays.length} of ${sent.length} steps`,
      against: '250 ms allowed',
      ratio: percentile(delays, 99) / 250,
      wanted: 'below 1',
    },
  ]
}
