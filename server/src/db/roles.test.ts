import { randomUUID } from 'node:crypto'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest'
import { testApp, type TestApp } from '../test/app.ts'
import { databaseUrl, freshDatabase } from '../test/database.ts'
import { shapeOf } from './migrate.ts'
import { CannotStart, prepareDatabase, shownAddress } from '../plant/prepare.ts'

const NO_BACKUPS = { folder: '/dev/null/backups', passphrase: null }
let app: TestApp
beforeAll(async () => {
  app = await testApp()
})
afterAll(() => app.stop())
const asApplication = (sql: string) => app.connection.pool.query(sql)

describe('the application’s role', () => {
  test('is no superuser, may make nothing, and owns nothing', async () => {
    const { rows } = await asApplication(
      `select rolsuper, rolcreaterole, rolcreatedb, rolbypassrls, rolreplication,
       (select count(*) from pg_class c where c.relowner = r.oid)::int as owned
       from pg_roles r where rolname = current_user`,
    )
    expect(rows).toEqual([
      {
        rolsuper: false,
        rolcreaterole: false,
        rolcreatedb: false,
        rolbypassrls: false,
        rolreplication: false,
        owned: 0,
      },
    ])
  })
  test.each([
    ['change an event', `update events set payload = '{}' where seq = 1`],
    ['change an event’s time', `update events set recorded_at = now()`],
    ['delete events', 'delete from events'],
    ['empty them', 'truncate events'],
    ['change a revision', `update loop_revisions set document = '{}'`],
    ['delete a revision', 'delete from loop_revisions'],
    ['change who tried to sign in', `update sign_ins set outcome = 'right'`],
    ['forget who tried', 'delete from sign_ins'],
    ['delete a loop', 'delete from loops'],
    ['delete a person', 'delete from people'],
    ['switch the triggers off', 'alter table events disable trigger all'],
    ['switch all triggers off', 'set session_replication_role = replica'],
    ['drop a table', 'drop table held_rows'],
    ['make a table', 'create table mine (x int)'],
    ['make a function', `create function f() returns int language sql as 'select 1'`],
    ['become the owner', 'set role calm'],
    ['read the server’s files', `select pg_read_file('/etc/passwd')`],
    ['run a program', `copy events to program 'true'`],
    ['change the shape’s own list', 'delete from drizzle.__drizzle_migrations'],
  ])('may not %s', async (_why, sql) => {
    await expect(asApplication(sql)).rejects.toMatchObject({ code: '42501' })
  })
  test('the owner is refused by triggers too', async () => {
    const owner = new pg.Client({ connectionString: app.ownerUrl })
    await owner.connect()
    for (const sql of [
      'update events set seq = seq',
      'delete from events',
      'truncate events cascade',
      `update loop_revisions set reason = ''`,
      'delete from loop_revisions',
      'truncate loop_revisions',
      'delete from plant_events',
      'update plant_events set reason = reason',
      'delete from leaves',
      'update tree_nodes set hash = hash',
      'truncate tree_heads',
    ])
      await expect(owner.query(sql)).rejects.toThrow(/stays as it is/)
    await owner.end()
  })
})

describe('a start', () => {
  const url = inject('databaseUrl')
  test('made ready twice, also at once, it is the same address', async () => {
    const fresh = await freshDatabase(url, 'template_demo')
    const [a, b] = await Promise.all([1, 2].map(() => prepareDatabase(fresh, NO_BACKUPS)))
    expect(a).toMatchObject({ ownRole: true, backup: null })
    expect(b?.url).toBe(a?.url)
    expect(new URL(a?.url ?? '').username).toMatch(/_application$/)
  })
  const wrong = (change: (u: URL) => void) => {
    const u = new URL(url)
    change(u)
    return u.toString()
  }
  test.each<[string, () => string, RegExp]>([
    ['nobody listens', () => wrong((u) => (u.port = '1')), /nothing listens there\. Check DATABASE_URL\.$/],
    ['a wrong password', () => wrong((u) => (u.password = 'no')), /name and password do not belong together/],
    ['no such database', () => databaseUrl(url, 'nowhere'), /there is no such database/],
    ['another kind of address', () => 'mysql://x/y', /It must look like postgres:/],
    ['no address', () => 'nonsense', /It must look like postgres:/],
  ])('%s: one sentence, without the password', async (_why, at, says) => {
    const told = await prepareDatabase(at(), NO_BACKUPS).catch((e: unknown) => e)
    expect(told).toBeInstanceOf(CannotStart)
    expect((told as Error).message).toMatch(says)
    expect((told as Error).message).not.toContain('\n')
    expect((told as Error).message).not.toContain(new URL(url).password)
  })
  test('the shown address keeps its secret', () => {
    expect(shownAddress('postgres://a:secret@h:1/d')).toBe('postgres://a:***@h:1/d')
  })
  const owned = async (to: (client: pg.Client) => Promise<unknown>): Promise<string> => {
    const fresh = await freshDatabase(url, 'template_demo')
    const client = new pg.Client({ connectionString: fresh })
    await client.connect()
    await to(client)
    await client.end()
    return fresh
  }
  test('a newer shape is refused with both versions, and nothing is changed', async () => {
    const fresh = await owned((c) =>
      c.query(`insert into drizzle.__drizzle_migrations (hash, created_at) values ('x', 9999999999999)`),
    )
    const client = new pg.Client({ connectionString: fresh })
    await client.connect()
    const { here, known, is } = await shapeOf(client)
    expect([is, here]).toEqual(['newer', known + 1])
    await expect(prepareDatabase(fresh, NO_BACKUPS)).rejects.toThrow(
      new RegExp(`has shape ${here}; this program knows shape ${known}\\..*newer`),
    )
    await client.end()
  })
  test('an older shape is not touched before it is kept', async () => {
    const fresh = await owned((c) =>
      c.query(
        'delete from drizzle.__drizzle_migrations where created_at = (select max(created_at) from drizzle.__drizzle_migrations)',
      ),
    )
    // No folder: no backup, no change.
    await expect(prepareDatabase(fresh, NO_BACKUPS)).rejects.toThrow(
      /no backup can be written.*Nothing was changed/,
    )
  })
  test('one whose owner may make no roles works as that owner, and says so', async () => {
    const name = `plain_${randomUUID().slice(0, 8)}`
    const admin = new pg.Client({ connectionString: url })
    await admin.connect()
    await admin.query(`create role ${name} login password 'p'`)
    await admin.query(`create database ${name} owner ${name}`)
    await admin.end()
    const u = new URL(databaseUrl(url, name))
    u.username = name
    u.password = 'p'
    expect(await prepareDatabase(u.toString(), NO_BACKUPS)).toEqual({
      url: u.toString(),
      ownRole: false,
      backup: null,
    })
  })
})
