import { locate, type Located, type SegmentResult } from '@calm/core/scale/diagnosis/locate'
import { nextReading } from '@calm/core/scale/diagnosis/next-reading'
import { toldShapes } from '@calm/core/scale/diagnosis/explain'
import { brokenJob, healthyJob, twiceBrokenJob, type Job } from '@calm/core/scale/diagnosis/test/plants'
import { auditPath } from '@calm/core/scale/audit'
import { badLoop, goodLoop, type Configured } from '@calm/core/scale/test/audit-plants'
import { Generator } from '@calm/core/statistics/generator'
import { percentile, print, type Figure } from './report.ts'

const SEED = 20317
const BROKEN = 1000
const TWICE = 1000
const HEALTHY = 2000
const MISCONFIGURED = 600
const WELL_CONFIGURED = 5000
const ALLOWED_MS = 30

const share = (title: string, part: number, of: number, wanted: number): Figure => ({
  title: `${title} (seed ${SEED})`,
  measured: `${part} of ${of}, ${((100 * part) / of).toFixed(1)} %`,
  against: `${(100 * wanted).toFixed(1)} % wanted`,
  ratio: part / of / wanted,
  wanted: 'at least 1',
})
const suspect = (l: Located) => l.firstOut ?? l.segments.find((s) => s.state === 'INDETERMINATE') ?? null
const isPlaced = (job: Job, l: Located): boolean => {
  const [mistake] = job.mistakes
  return mistake !== undefined && (suspect(l)?.links ?? []).includes(mistake.link)
}
/** Whether a stretch is called by one of the names that a mistake may honestly have. */
const isCalled = (s: SegmentResult | null, mistake: Job['mistakes'][number] | undefined): boolean => {
  const first = s?.explanation && toldShapes(s.explanation)[0]
  return !!first && !!mistake && mistake.called.includes(first.shape)
}
const isNamed = (job: Job, l: Located): boolean => isPlaced(job, l) && isCalled(suspect(l), job.mistakes[0])
/** Both mistakes, each in a stretch of its own and by its name. */
function areNamed({ mistakes }: Job, l: Located): boolean {
  const found = mistakes.map((m) => l.segments.find((s) => s.links.includes(m.link) && s.state !== 'WITHIN'))
  return new Set(found).size === mistakes.length && mistakes.every((m, i) => isCalled(found[i] ?? null, m))
}
/** What the suggested readings, done one after the other, make of it. */
function afterReadings(job: Job, most: number): Located {
  let task = job.task
  let l = locate(task)
  for (let i = 0; i < most; i++) {
    const next = nextReading(l, job.stations)
    if (!next) break
    if (next.kind === 'station') task = job.withStation(task, next.at)
    else task = next.kind === 'level' ? job.withLevel(task, next.at_pct) : job.withFeed(task, next.at)
    l = locate(task)
  }
  return l
}

const worst = (c: Configured) => new Set(auditPath(c.stages, c.needsRoot, c.tolerance).map((f) => f.severity))

function auditFigures(g: Generator): Figure[] {
  const bad = Array.from({ length: MISCONFIGURED }, () => worst(badLoop(g)))
  const good = Array.from({ length: WELL_CONFIGURED }, () => worst(goodLoop(g)))
  return [
    share(
      'audit: misconfigured loops told',
      bad.filter((s) => s.has('stop') || s.has('warn')).length,
      MISCONFIGURED,
      1,
    ),
    share(
      'audit: good loops without a complaint',
      good.filter((s) => !s.has('stop') && !s.has('warn')).length,
      WELL_CONFIGURED,
      1,
    ),
  ]
}

/** Plants made apart from the rules that judge them: what is wrong is placed and named, and nothing is where nothing is. */
export function judgementFigures(): Figure[] {
  const g = new Generator(SEED)
  const took: number[] = []
  const broken = Array.from({ length: BROKEN }, () => {
    const job = brokenJob(g)
    const begun = performance.now()
    const l = locate(job.task)
    took.push(performance.now() - begun)
    return {
      job,
      placed: isPlaced(job, l),
      named: isNamed(job, l),
      later: isNamed(job, afterReadings(job, 1)),
    }
  })
  const atLimit = broken.filter((b) => b.job.atLimit)
  const twice = Array.from({ length: TWICE }, () => {
    const job = twiceBrokenJob(g)
    return areNamed(job, afterReadings(job, 2))
  })
  const silent = Array.from({ length: HEALTHY }, () => locate(healthyJob(g).task)).filter(
    (l) => l.firstOut === null && !l.addedUp,
  ).length
  const p95 = percentile(took, 95)
  return [
    ...auditFigures(g),
    share('single mistakes: the place', broken.filter((b) => b.placed).length, BROKEN, 1),
    share('single mistakes: the name first', broken.filter((b) => b.named).length, BROKEN, 0.98),
    share(
      'of them with a reading at a limit: the name first',
      atLimit.filter((b) => b.named).length,
      atLimit.length,
      0.98,
    ),
    share(
      'single mistakes: named after one suggested reading',
      broken.filter((b) => b.later).length,
      BROKEN,
      0.995,
    ),
    share('two mistakes: both named after two suggested readings', twice.filter(Boolean).length, TWICE, 0.9),
    share('healthy plants: silent', silent, HEALTHY, 1),
    {
      title: 'locating a mistake, p95',
      measured: `${p95.toFixed(1)} ms`,
      against: `${ALLOWED_MS} ms allowed`,
      ratio: p95 / ALLOWED_MS,
      wanted: 'at most 1',
    },
  ]
}

// By itself: npm run bench judgement.
if (process.argv[1]?.endsWith('judgement.ts')) print(judgementFigures())
