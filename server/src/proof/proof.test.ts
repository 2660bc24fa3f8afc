import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Transactional } from '../db/connection.ts'
import type { SignedHead } from '@calm/contract/plant-log'
import { keepHead, readHeads } from '../plant-log/heads-file.ts'
import { plantKey, type PlantKey } from '../plant-log/plant-key.ts'
import { beginPlantLog } from '../plant-log/note.ts'
import { allHeads, seal } from '../plant-log/sealer.ts'
import { testApp, testClock, type TestApp } from '../test/app.ts'
import { foundAfter, rebuildTree, rehash, rehashLog } from '../test/cheat.ts'
import { provePlant } from './prove.ts'

let app: TestApp
let client: pg.Client
let key: PlantKey
let outside: readonly SignedHead[]
const folder = mkdtempSync(join(tmpdir(), 'calm-proof-'))

const sealAll = async () => {
  for (;;) if (!(await seal(app.connection.db, key, testClock()))) return
}

beforeAll(async () => {
  app = await testApp()
  key = plantKey(join(folder, 'keys', 'key.pem'), null)
  await sealAll()
  const wren = await app.as('wren')
  await wren.put('/api/plant/rules').send({ water: 'H2O@4degC' })
  await wren
    .put('/api/plant/rules')
    .send({ letterhead: { name: 'Invented works', address: 'Nowhere 1', country: 'DE' } })
    .expect(200)
  await sealAll()
  const file = join(folder, 'heads.jsonl')
  for (const head of await allHeads(app.connection.db)) keepHead(file, head)
  outside = readHeads(file).heads
  client = new pg.Client({ connectionString: app.ownerUrl })
  await client.connect()
})
afterAll(async () => {
  await client.end()
  await app.stop()
  rmSync(folder, { recursive: true, force: true })
})

const told = (cheat: (db: Transactional) => Promise<unknown>, heads = outside) =>
  foundAfter(client, cheat, heads)
const by =
  (...statements: string[]) =>
  async () => {
    for (const s of statements) await client.query(s)
  }

const LOOP = `(select id from loops where tag = 'PT-103')`
const RUN = `(select id from runs where loop_id = ${LOOP} order by started_at limit 1)`
const READING = `loop_id = ${LOOP} and seq = (select min(seq) from events where loop_id = ${LOOP} and type = 'reading.recorded')`
const SOMEBODY = `(select id from people where name = 'tern')`
const PERSON = `name = 'wren'`
const PUMP = `serial = 'GS-PC-011'`
const ZEROS = `repeat('0', 64)`

describe('a healthy plant', () => {
  test('is whole, also against the heads that left it', async () => {
    const proof = await provePlant(app.connection.db, outside)
    expect(proof.mismatches).toEqual([])
    expect(proof).toMatchObject({ loops: 24, foreign: 0, heads: outside.length })
    expect(proof.signatures).toBeGreaterThan(20)
    expect(outside.length).toBeGreaterThan(1)
  })
  test('and nothing that is only looked at makes it otherwise', async () => {
    expect(await told(by(`select count(*) from events`, `update sessions set expire = expire`))).toEqual([])
  })
})

/** What was done, in SQL, and where and what the proof must name. */
const QUIET: readonly (readonly [what: string, statements: readonly string[], names: RegExp])[] = [
  // Events of a loop
  [
    'a reading changed',
    [`update events set payload = jsonb_set(payload, '{values,pv,value}', '1.5') where ${READING}`],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'what was typed changed',
    [`update events set payload = jsonb_set(payload, '{values,pv,typed}', '"9"') where ${READING}`],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'an author changed',
    [`update events set by = ${SOMEBODY} where ${READING}`],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'the time of a reading changed',
    [`update events set at = at + interval '1 minute' where ${READING}`],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'the server’s time changed',
    [`update events set recorded_at = recorded_at - interval '1 day' where ${READING}`],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'an event of another kind',
    [`update events set type = 'reading.confirmed' where ${READING}`],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'an event moved to another run',
    [
      `update events set run_id = (select id from runs where loop_id = ${LOOP} order by started_at desc limit 1) where ${READING}`,
    ],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'an event taken out of the middle',
    [`delete from events where ${READING}`],
    /^PT-103, event \d+: .*is missing/,
  ],
  [
    'the last event cut off',
    [`delete from events where loop_id = ${LOOP} and seq = (select last_seq from loops where id = ${LOOP})`],
    /^PT-103, event \d+: .*ends at event/,
  ],
  [
    'the last event cut off and the loop told so',
    [
      `update loops set last_hash = (select previous from events where loop_id = loops.id and seq = last_seq), last_seq = last_seq - 1 where tag = 'PT-103'`,
      `delete from events where loop_id = ${LOOP} and seq > (select last_seq from loops where id = ${LOOP})`,
    ],
    /^the tree, entry \d+: What it stands for was taken out/,
  ],
  [
    'two events swapped',
    [
      `update events set seq = -seq where loop_id = ${LOOP} and seq in (4, 5)`,
      `update events set seq = 9 + seq where loop_id = ${LOOP} and seq < 0`,
    ],
    /^PT-103, event \d+: .*does not follow/,
  ],
  [
    'a hash overwritten',
    [`update events set hash = ${ZEROS} where ${READING}`],
    /^PT-103, event \d+: .*changed after/,
  ],
  [
    'the hash before overwritten',
    [`update events set previous = ${ZEROS} where ${READING}`],
    /^PT-103, event \d+: .*does not follow/,
  ],
  [
    'the form of a hash set back',
    [`update events set form = 1 where ${READING}`],
    /^PT-103, event \d+: .*older form/,
  ],
  [
    'a whole run taken out',
    [`delete from events where run_id = ${RUN}`, `delete from runs where id = ${RUN}`],
    /^PT-103, event \d+: .*is missing/,
  ],
  // Revisions
  [
    'a document changed',
    [
      `update loop_revisions set document = jsonb_set(document, '{interval_months}', '60') where loop_id = ${LOOP} and number = 1`,
    ],
    /^PT-103, event \d+: Revision 1 is not the document/,
  ],
  [
    'who saved a revision',
    [`update loop_revisions set by = ${SOMEBODY} where loop_id = ${LOOP} and number = 1`],
    /^PT-103, revision 1, by:/,
  ],
  [
    'when it was saved',
    [`update loop_revisions set at = at - interval '1 year' where loop_id = ${LOOP} and number = 1`],
    /^PT-103, revision 1, at:/,
  ],
  [
    'why it was saved',
    [`update loop_revisions set reason = 'as agreed' where loop_id = ${LOOP} and number = 1`],
    /^PT-103, revision 1, reason: It is “as agreed” here/,
  ],
  [
    'a revision taken out',
    [`delete from loop_revisions where loop_id = ${LOOP} and number = 1`],
    /^PT-103, event \d+: Revision 1 is not/,
  ],
  [
    'a revision put in',
    [
      `insert into loop_revisions select loop_id, 99, document, by, at, reason from loop_revisions where loop_id = ${LOOP} and number = 1`,
    ],
    /^PT-103, event \d+: Revision 99 stands in no event/,
  ],
  // The loop's row
  [
    'a tag',
    [`update loops set tag = 'PT-903' where tag = 'PT-103'`],
    /^PT-903, tag: It is “PT-903” here, and “PT-103” by the record/,
  ],
  ['a service', [`update loops set service = 'nothing' where tag = 'PT-103'`], /^PT-103, service:/],
  ['an assignee', [`update loops set assignee = 'Somebody' where tag = 'PT-103'`], /^PT-103, assignee:/],
  ['an area', [`update loops set area = 'elsewhere' where tag = 'PT-103'`], /^PT-103, area:/],
  [
    'an interval',
    [`update loops set interval_months = 60 where tag = 'PT-103'`],
    /^PT-103, intervalMonths: It is 60 here/,
  ],
  [
    'the last verification made younger',
    [`update loops set last_calibrated = last_calibrated + 300 where tag = 'PT-103'`],
    /^PT-103, lastCalibrated:/,
  ],
  [
    'an out-of-tolerance made good',
    [`update loops set summary = jsonb_set(summary, '{verdict}', '"GOOD"') where tag = 'PT-103'`],
    /^PT-103, summary:/,
  ],
  [
    'the day since which it is due',
    [`update loops set due_now = '2020-01-01' where tag = 'PT-103'`],
    /^PT-103, dueNow:/,
  ],
  ['a drift', [`update loops set drift = null where tag = 'PT-103'`], /^PT-103, drift:/],
  [
    'which revision counts',
    [`update loops set revision = revision - 1 where revision > 1`],
    /, revision: It is 1 here, and 2|, revision: It is \d+ here/,
  ],
  [
    'a real loop from a demo one',
    [`update loops set demo = false where tag = 'PT-103'`],
    /^PT-103, demo: It is false here/,
  ],
  [
    'what is foreign',
    [
      `update loops set taken = '[{"events": 3, "by": "${'0'.repeat(8)}-0000-4000-8000-000000000000", "names": {}}]' where tag = 'PT-103'`,
    ],
    /^PT-103, event \d+: Which packages/,
  ],
  // Runs
  [
    'a verdict',
    [
      `update runs set verdict = 'GOOD' where id = ${RUN}`,
      `update runs set verdict = 'FAIL' where id = ${RUN}`,
    ],
    /^PT-103, run of [\d-]+, verdict:/,
  ],
  [
    'a state',
    [`update runs set state = 'signed' where id = ${RUN}`],
    /^PT-103, run of [\d-]+, state: It is “signed” here/,
  ],
  [
    'when it began',
    [`update runs set started_at = started_at - interval '1 day' where id = ${RUN}`],
    /^PT-103, run of [\d-]+, startedAt:/,
  ],
  [
    'who began it',
    [`update runs set started_by = (select id from people where name = 'heron') where id = ${RUN}`],
    /^PT-103, run of [\d-]+, startedBy:/,
  ],
  [
    'which revision it was begun on',
    [`update runs set revision = 7 where id = ${RUN}`],
    /^PT-103, run of [\d-]+, revision: It is 7 here/,
  ],
  ['its errors', [`update runs set errors = '{}' where id = ${RUN}`], /^PT-103, run of [\d-]+, errors:/],
  [
    'what is kept of its readings',
    [
      `update runs set folded = jsonb_set(folded, '{run,startedAt}', '"2020-01-01T00:00:00.000Z"') where id = ${RUN}`,
    ],
    /^PT-103, run of [\d-]+, folded:/,
  ],
  [
    'an adjustment that was none',
    [`update runs set adjusted_at = now() where id = ${RUN}`],
    /^PT-103, run of [\d-]+, adjustedAt:/,
  ],
  [
    'a run of another kind',
    [`update runs set kind = 'procedure', procedure = 'loop-check' where id = ${RUN}`],
    /^PT-103, run of [\d-]+, (kind|procedure):/,
  ],
  [
    'a run that never was',
    [
      `insert into runs (id, loop_id, kind, state, revision, started_at, started_by) values (gen_random_uuid(), ${LOOP}, 'verification', 'countersigned', 1, '2026-11-01', ${SOMEBODY})`,
    ],
    /^PT-103, run of 2026-11-01: No event/,
  ],
  // Instruments, sensors, imports, settings
  [
    'a certificate that lasts longer',
    [`update equipment set due_on = due_on + 365 where ${PUMP}`],
    /GS-PC-011, dueOn:/,
  ],
  [
    'a better uncertainty',
    [`update equipment set uncertainty = '0.001 %' where ${PUMP}`],
    /GS-PC-011, uncertainty: It is “0.001 %” here/,
  ],
  ['an instrument taken out', [`delete from equipment where ${PUMP}`], /^equipment .*: It was taken out/],
  [
    'an instrument put in',
    [
      `insert into equipment (id, name, serial, range, uncertainty, certificate, certified_on, due_on) select gen_random_uuid(), 'Ghost', 'X-1', range, uncertainty, certificate, certified_on, due_on from equipment where ${PUMP}`,
    ],
    /^the instrument Ghost, serial X-1: Nobody entered this/,
  ],
  [
    'an instrument hidden',
    [`update equipment set "foreign" = true where ${PUMP}`],
    /GS-PC-011, foreign: It is true here/,
  ],
  [
    'the plate of a sensor',
    [
      `update sensor_revisions set description = description || '{"serial": "other"}' where revision = 1 and sensor_id = (select sensor_id from sensor_revisions order by sensor_id limit 1)`,
    ],
    /^description 1 of a sensor, description:/,
  ],
  [
    'who described a sensor',
    [
      `update sensor_revisions set by = ${SOMEBODY} where sensor_id = (select sensor_id from sensor_revisions order by sensor_id limit 1)`,
    ],
    /^description 1 of a sensor, by:/,
  ],
  ['what an import did', [`update imports set result = result || '{"created": 1}'`], /^an import, result:/],
  [
    'a rule of the plant',
    [
      `update settings set value = jsonb_set(value, '{letterhead,name}', '"Another works"') where key = 'rules of the plant'`,
    ],
    /^the setting rules of the plant, letterhead: .*Another works/,
  ],
  [
    'the plant’s identifier',
    [`update settings set value = to_jsonb(gen_random_uuid()) where key = 'plant'`],
    /kept outside, plant: It is of another plant/,
  ],
  // People and keys
  [
    'a name',
    [`update people set shown_name = 'Somebody Else' where ${PERSON}`],
    /^the person Somebody Else, shownName:/,
  ],
  [
    'a role',
    [`update people set role = 'reviewer' where ${PERSON}`],
    /, role: It is “reviewer” here, and “technician” by the record/,
  ],
  [
    'an account opened',
    [`update people set state = 'locked' where ${PERSON}`],
    /, state: It is “locked” here/,
  ],
  [
    'a password',
    [
      `update people set password_hash = (select password_hash from people where name = 'heron') where ${PERSON}`,
    ],
    /, password: It is/,
  ],
  ['areas', [`update people set areas = '["Boilers"]' where ${PERSON}`], /, areas:/],
  ['a last day', [`update people set until = '2020-01-01' where ${PERSON}`], /, until:/],
  [
    'a person taken out',
    [
      `delete from person_keys where person_id = (select id from people where ${PERSON})`,
      `delete from people where ${PERSON}`,
    ],
    /^the person .*: It was taken out/,
  ],
  [
    'a person put in',
    [
      `insert into people (id, name, shown_name, role, password_hash) values (gen_random_uuid(), 'ghost', 'Ghost', 'administrator', 'x')`,
    ],
    /^the person Ghost: Nobody entered this/,
  ],
  [
    'another public key',
    [
      `update person_keys set public_key = repeat('ab', 32) where person_id = (select id from people where ${PERSON})`,
    ],
    /, publicKey: It is/,
  ],
  [
    'a key that ended',
    [`update person_keys set until = now() where person_id = (select id from people where ${PERSON})`],
    /^the signing key \w+, until: It is/,
  ],
  [
    'a key in use longer than it was',
    [
      `update person_keys set "from" = '2026-01-01' where person_id = (select id from people where name = 'heron')`,
    ],
    /, signature: The key was not in use|, from: It is/,
  ],
  [
    'another wrapped key',
    [
      `update person_keys set wrapped = repeat('ab', 64) where person_id = (select id from people where ${PERSON})`,
    ],
    /^the signing key \w+, wrapped:/,
  ],
  [
    'a key taken out',
    [`delete from person_keys where person_id = (select id from people where name = 'heron')`],
    /signature: It was made with a key that nobody here has or had/,
  ],
  // The log and the tree
  [
    'an entry of the log',
    [
      `update plant_events set payload = jsonb_set(payload, '{shownName}', '"Nobody"') where type = 'signed.in'`,
    ],
    /^the log, “Signed in” of .*: This entry was changed/,
  ],
  [
    'who did it by the log',
    [`update plant_events set by = ${SOMEBODY} where type = 'rules.changed'`],
    /^the log, “Rules of the plant changed” of .*: This entry was changed/,
  ],
  [
    'a reason in the log',
    [`update plant_events set reason = 'asked to' where type = 'rules.changed'`],
    /^the log, “Rules of the plant changed”/,
  ],
  [
    'an entry taken out',
    [`delete from plant_events where type = 'signed.in'`],
    /^the tree, entry \d+: What it stands for was taken out/,
  ],
  [
    'an entry put in',
    [
      `insert into plant_events (id, type, at, reason, payload, hash) select gen_random_uuid(), type, at, reason, payload, hash from plant_events where type = 'demo.loaded'`,
    ],
    /^the log, “Demo plant loaded”.*: This entry was changed|put in past the program/,
  ],
  [
    'a leaf',
    [`update leaves set hash = ${ZEROS} where at = 5`],
    /is not what was sealed as entry 6 of the tree/,
  ],
  ['a leaf taken out', [`delete from leaves where at = 5`], /^the tree, entry 7: Entry 6 was taken out/],
  [
    'two leaves swapped',
    [
      `update leaves set at = -at - 1 where at in (5, 6)`,
      `update leaves set at = case at when -6 then 6 else 5 end where at < 0`,
    ],
    /, root: The tree did not grow out of it/,
  ],
  [
    'the root of a head',
    [`update tree_heads set root = ${ZEROS} where size = (select max(size) from tree_heads)`],
    /^the head of .*, signature: The plant’s key did not sign this/,
  ],
  ['the time of a head', [`update tree_heads set at = at - interval '1 day'`], /^the head of .*, signature:/],
  [
    'the newest head taken out',
    [`delete from tree_heads where size = (select max(size) from tree_heads)`],
    /^the tree, entry \d+: No signed head tells of it/,
  ],
]

describe('every quiet change in the database is found and named', () => {
  test.each(QUIET)('%s', async (_, statements, names) => {
    const says = await told(by(...statements))
    expect(says.filter((s) => names.test(s)).length, says.slice(0, 8).join('\n')).toBeGreaterThan(0)
  })
})

describe('somebody who knows every rule', () => {
  const idOf = async () =>
    (await client.query<{ id: string }>(`select id from loops where tag = 'PT-103'`)).rows[0]?.id ?? ''
  const changedReading = by(
    `update events set payload = jsonb_set(payload, '{values,pv,value}', '1.5') where ${READING}`,
    `update runs set folded = null where id = ${RUN}`,
  )
  test('a reading changed and its chain hashed anew: the tree did not grow so, and who signed it did not sign this', async () => {
    const says = await told(async (db) => {
      await changedReading()
      await rehash(db, await idOf())
    })
    expect(says).toEqual(
      expect.arrayContaining([expect.stringMatching(/root: The tree did not grow out of it/)]),
    )
    expect(says).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/^PT-103, event \d+, signature: What was signed is not/),
      ]),
    )
  })
  test('with the server’s key as well: the heads kept outside and the signatures of people still tell', async () => {
    const cheat = async (db: Transactional) => {
      await changedReading()
      await rehash(db, await idOf())
      await rebuildTree(db, key)
    }
    const says = await told(cheat)
    expect(says).toEqual(
      expect.arrayContaining([expect.stringMatching(/kept outside, root: The tree did not grow out of it/)]),
    )
    const without = await told(cheat, [])
    expect(without.some((s) => /signature: What was signed/.test(s))).toBe(true)
  })
  test('a role changed with its entry, hashed anew', async () => {
    const says = await told(async (db) => {
      await by(
        `update people set role = 'reviewer' where ${PERSON}`,
        `update plant_events set "row" = jsonb_set("row", '{is,role}', '"reviewer"') where "row" ->> 'table' = 'people' and "row" -> 'is' ->> 'name' = 'wren'`,
      )()
      await rehashLog(db)
    })
    expect(says.length).toBeGreaterThan(1)
    expect(says.filter((s) => !/root: The tree did not grow out of it/.test(s))).toEqual([])
  })
  test('another plant’s key: no entry of the log tells of it', async () => {
    const other = plantKey(join(folder, 'other', 'key.pem'), null)
    const says = await told((db) => rebuildTree(db, other), [])
    expect(says).toEqual([expect.stringMatching(/, key: It was signed by a key that no entry/)])
  })
  test('an older backup put back in its place: the head that left the house later tells', async () => {
    const older = async () => {
      const size = outside[0]?.size ?? 0
      await by(
        `delete from plant_events where id in (select event_id from leaves where at >= ${size})`,
        `delete from leaves where at >= ${size}`,
        `delete from tree_heads where size > ${size}`,
        `delete from tree_nodes where (at + 1) * power(2, level) > ${size}`,
        `delete from settings where key = 'rules of the plant'`,
      )()
    }
    expect(await told(older)).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/kept outside, size: The tree has \d+ entries only: .*older backup/),
      ]),
    )
    // Without one of those nothing can tell: that is why they leave the house.
    expect((await told(older, [])).filter((s) => !/leaf|signed\.in/.test(s))).toEqual([])
  })
})

describe('a head that somebody kept', () => {
  const held = async (head: object) =>
    (await (await app.as('heron')).post('/api/log/grown').send(head).expect(200)).body as {
      grew: boolean
      says: string
      path: string[]
    }
  test('is one that the record of now grew out of, with the proof of it', async () => {
    await sealAll()
    const [first] = outside
    const told = await held(first ?? {})
    expect(told.grew).toBe(true)
    expect(told.path.length).toBeGreaterThan(0)
  })
  test.each([
    ['of another plant', { plant: '018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0009' }, /another plant/],
    ['with another root', { root: '0'.repeat(64) }, /did not sign/],
    ['by nobody’s key', { key: '0'.repeat(64) }, /no entry of the log/],
    ['larger than the record', { size: 1_000_000 }, /did not sign/],
  ])('%s is told as that', async (_, over, says) => {
    const told = await held({ ...outside[0], ...over })
    expect(told.grew).toBe(false)
    expect(told.says).toMatch(says)
  })
  test('and signed by the plant over another tree: the record did not grow out of it', async () => {
    const [first] = outside
    if (!first) throw new Error('no head')
    const forged = { ...first, root: '0'.repeat(64) }
    const { headText } = await import('@calm/core/record/plant-log/head')
    expect(await held({ ...forged, signature: key.sign(headText(forged)) })).toMatchObject({
      grew: false,
      says: expect.stringMatching(/did not grow out of it/),
    })
    const larger = { ...first, size: 1_000_000 }
    expect(await held({ ...larger, signature: key.sign(headText(larger)) })).toMatchObject({
      grew: false,
      says: expect.stringMatching(/older backup/),
    })
  })
})

describe('a plant from before there was a log', () => {
  test('is written down as it was found, and is whole but for what was signed before', async () => {
    const says = await told(async (db) => {
      await by(
        'delete from plant_events',
        'delete from leaves',
        'delete from tree_heads',
        'delete from tree_nodes',
        `delete from settings where key = 'plant'`,
        'delete from unsealed',
        'insert into unsealed (event_id, hash) select id, hash from events order by recorded_at, loop_id, seq',
        'set local session_replication_role = origin',
      )()
      await beginPlantLog(db, testClock())
      await beginPlantLog(db, testClock())
    }, [])
    // Signatures of the demo plant are over instruments that no entry of this log tells of at their time.
    expect(says.filter((s) => !/signature: What was signed/.test(s))).toEqual([])
  })
})
