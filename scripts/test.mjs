// npm test: every check, headless, from nothing; ends with one line of totals.
import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuilt } from './lib/build.mjs'
import { ensureChromium, ensurePackages, ensurePostgres, ROOT } from './lib/install.mjs'
import { say } from './lib/say.mjs'

ensurePackages()
ensurePostgres()
ensureChromium()

const cache = join(ROOT, 'node_modules/.cache')
mkdirSync(cache, { recursive: true })
let passed = 0
let failed = 0

/** @param {string} title @param {string} command @param {string[]} args */
async function run(title, command, args) {
  const begun = Date.now()
  const child = spawn(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, FORCE_COLOR: '0', NO_COLOR: '1' },
  })
  let told = ''
  for (const stream of [child.stdout, child.stderr])
    stream.setEncoding('utf8').on('data', (text) => (told += text))
  const good = await new Promise((resolve) => {
    child.on('error', () => resolve(false))
    child.on('close', (code) => resolve(code === 0))
  })
  const seconds = ((Date.now() - begun) / 1000).toFixed(1)
  say(`${good ? 'passed' : 'FAILED'}  ${title} (${seconds} s)`)
  if (!good) say(told)
  return good
}

/** @param {string} title @param {string[]} args */
async function check(title, args) {
  if (await run(title, 'npm', ['run', '--silent', ...args])) passed += 1
  else {
    failed += 1
    toldLast.push(title)
  }
}

/** What failed, told once more at the end: of a long output mostly the end is kept. @type {string[]} */
const toldLast = []

/** Counts what a test runner reported; a runner that reported nothing has failed. @param {string} title @param {string} file @param {(report: any) => [number, number, string[]]} count @param {boolean} good */
function add(title, file, count, good) {
  if (!existsSync(file)) {
    failed += 1
    toldLast.push(`${title}: no report`)
    return
  }
  const [p, f, names] = count(JSON.parse(readFileSync(file, 'utf8')))
  passed += p
  failed += f === 0 && !good ? 1 : f
  toldLast.push(...names.map((name) => `${title}: ${name}`))
  if (f === 0 && !good)
    toldLast.push(`${title}: every test passed, the runner failed (an error outside a test)`)
}

/** The names and the first words of the tests that failed, of vitest's report. @param {any} r */
const failedUnits = (r) =>
  r.testResults.flatMap((/** @type {any} */ file) => [
    ...(file.assertionResults.length === 0 && file.status === 'failed'
      ? [`${file.name}: ${String(file.message).slice(0, 400)}`]
      : []),
    ...file.assertionResults
      .filter((/** @type {any} */ t) => t.status === 'failed')
      .map(
        (/** @type {any} */ t) =>
          `${file.name}: ${t.fullName}: ${(t.failureMessages[0] ?? '').slice(0, 600)}`,
      ),
  ])

/** The same of playwright's, whose suites nest: its own lines stand far above the end. @param {any} suite @returns {string[]} */
const failedJourneys = (suite) => [
  ...(suite.specs ?? [])
    .filter((/** @type {any} */ spec) => !spec.ok)
    .map(
      (/** @type {any} */ spec) =>
        `${spec.file}: ${spec.title}: ${String(spec.tests[0]?.results.at(-1)?.error?.message ?? '').slice(0, 1500)}`,
    ),
  ...(suite.suites ?? []).flatMap(failedJourneys),
]

// Each of these keeps one core busy: two at a time, shared so that both end together.
/** @param {[title: string, script: string][]} checks */
const inOrder = async (checks) => {
  for (const [title, script] of checks) await check(title, [script])
}
await Promise.all([
  inOrder([
    ['lint of the web', 'check:lint:web'],
    ['unused files and packages', 'check:unused'],
  ]),
  inOrder([
    ['types', 'check:types'],
    ['format', 'check:format'],
    ['lint of the rest', 'check:lint:rest'],
  ]),
])

const unit = join(cache, 'unit.json')
rmSync(unit, { force: true })
const unitGood = await run('unit and server tests', 'node_modules/.bin/vitest', [
  'run',
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${unit}`,
])
add('unit', unit, (r) => [r.numPassedTests, r.numFailedTests, failedUnits(r)], unitGood)

ensureBuilt()
const e2e = join(cache, 'e2e.json')
rmSync(e2e, { force: true })
const e2eGood = await run('journeys in the browser', 'node_modules/.bin/playwright', [
  'test',
  '-c',
  'e2e/playwright.config.ts',
])
add('journey', e2e, (r) => [r.stats.expected + r.stats.flaky, r.stats.unexpected, failedJourneys(r)], e2eGood)

for (const line of toldLast) say(`FAILED  ${line}`)
say(`${passed} passed, ${failed} failed`)
process.exitCode = failed === 0 ? 0 : 1
