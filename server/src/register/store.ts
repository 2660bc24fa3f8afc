import type { z } from 'zod'
import type {
  ChangePerson,
  ChangeState,
  FirstAdministrator,
  InvitePerson,
  PasswordLink,
  Person,
  RegisteredPerson,
  WrappedKey,
} from '@calm/contract/people'
import {
  passwordReset,
  personAdded,
  personChanged,
  personInvited,
  personJoined,
  personLeft,
  personLocked,
  personUnlocked,
} from '@calm/core/record/plant-log/kinds/people'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { signedOut } from '@calm/core/record/plant-log/kinds/sign-ins'
import { and, eq, isNull, ne, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound, wrongValues } from '../http/problems.ts'
import { beginKey, endKey } from '../people/keys.ts'
import { endLinks, makeLink, openLinks, personOfLink } from '../people/links.ts'
import { hashPassword, refuseCommon } from '../people/passwords.ts'
import { people, personKeys } from '../people/schema.ts'
import { endFactor } from '../people/second-factor.ts'
import { holdPerson } from '../people/store.ts'
import { beginPlantLog, note } from '../plant-log/note.ts'
import { endSessionsOf, openSessions } from '../session/session.ts'

type Row = typeof people.$inferSelect
const rowOf = (id: string) => ({ table: 'people', key: id }) as const

/** Everybody with state, key, open link and sessions, by name. */
export async function register(db: Executor, now: Date): Promise<RegisteredPerson[]> {
  const rows = await db.select().from(people).orderBy(people.shownName)
  const keys = await db.select().from(personKeys).where(isNull(personKeys.until))
  const links = await openLinks(db, now)
  const open = await openSessions(db, null)
  return rows.map((p) => {
    const his = open.filter((s) => s.personId === p.id)
    return {
      ...p,
      role: p.role as Person['role'],
      areas: [...p.areas],
      areaRoles: { ...p.areaRoles },
      key: keys.find((k) => k.personId === p.id)?.fingerprint ?? null,
      linkUntil: links.get(p.id) ?? null,
      sessions: his.length,
      seenAt: his[0]?.seenAt ?? null,
    }
  })
}

async function registered(db: Executor, id: string, now: Date): Promise<RegisteredPerson> {
  const found = (await register(db, now)).find((p) => p.id === id)
  if (!found) throw notFound('person')
  return found
}

async function held(tx: Executor, id: string): Promise<Row> {
  // One change of people at a time: the last administrator cannot be lost by two at once.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm people'))`)
  const row = await holdPerson(tx, id)
  if (!row) throw notFound('person')
  return row
}

async function nameIsFree(tx: Executor, name: string): Promise<void> {
  const [taken] = await tx
    .select({ shownName: people.shownName })
    .from(people)
    .where(eq(sql`lower(${people.name})`, name.toLowerCase()))
  if (taken)
    throw conflict(`${taken.shownName} signs in as ${name} already.`, {
      errors: [{ path: 'name', says: `${taken.shownName} signs in as ${name} already. Take another name.` }],
    })
}

/** Somebody stays who can let others in. @throws HttpProblem 409 */
async function anotherAdministrator(tx: Executor, but: string): Promise<void> {
  const [other] = await tx
    .select({ id: people.id })
    .from(people)
    .where(and(eq(people.role, 'administrator'), eq(people.state, 'active'), ne(people.id, but)))
    .limit(1)
  if (!other)
    throw conflict('This is the only administrator at work. Make somebody else one first, else nobody could.')
}

/** The first administrator of a plant that nobody works in. @throws HttpProblem 409 where somebody does */
export async function addFirst(
  db: Database,
  first: z.output<typeof FirstAdministrator>,
  id: string,
  now: Date,
): Promise<void> {
  refuseCommon(first.password, 'password')
  const passwordHash = await hashPassword(first.password)
  await beginPlantLog(db, now)
  await db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm people'))`)
    const [somebody] = await tx.select({ id: people.id }).from(people).limit(1)
    if (somebody)
      throw conflict('Somebody works in this plant already. Ask an administrator for an invitation.')
    const { name, shownName } = first
    await tx.insert(people).values({ id, name, shownName, role: 'administrator', passwordHash })
    await note(
      tx,
      {
        kind: personAdded,
        payload: { name, shownName, role: 'administrator' },
        by: id,
        subject: id,
        row: rowOf(id),
      },
      now,
    )
  })
}

/** @returns roles by area as they are kept. @throws HttpProblem 422 for an administrator, who is one everywhere */
function keptRoles({ role, areaRoles }: Pick<Person, 'role' | 'areaRoles'>): Person['areaRoles'] | null {
  const [area] = Object.keys(areaRoles)
  if (area === undefined) return null
  if (role === 'administrator')
    throw wrongValues([
      { path: `areaRoles.${area}`, says: 'An administrator signs nothing, in no area. Take this role away.' },
    ])
  return areaRoles
}

/** Invites somebody. Sent twice it is one person, with a new link. */
export async function invite(
  db: Database,
  p: z.output<typeof InvitePerson>,
  by: Person,
  now: Date,
): Promise<PasswordLink> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm people'))`)
    const here = await holdPerson(tx, p.id)
    if (here && (here.state !== 'invited' || here.name !== p.name))
      throw conflict(`${here.shownName} has this identifier already.`)
    const link = await (async () => {
      if (here) return makeLink(tx, p.id, now)
      await nameIsFree(tx, p.name)
      const { id, name, shownName, role, areas, until } = p
      const areaRoles = keptRoles(p)
      await tx
        .insert(people)
        .values({ id, name, shownName, role, areas, areaRoles, until, state: 'invited', passwordHash: null })
      return makeLink(tx, id, now)
    })()
    const { name, shownName, role, areas } = p
    const areaRoles = keptRoles(p)
    await note(
      tx,
      {
        kind: personInvited,
        payload: { name, shownName, role, areas, ...(areaRoles && { areaRoles }), until: link.until },
        by: by.id,
        subject: p.id,
        reason: p.reason,
        row: rowOf(p.id),
      },
      now,
    )
    await tellWindows(tx, { what: 'people' })
    return link
  })
}

/** Whom a link is for. @throws HttpProblem 404 */
export async function invitationOf(db: Database, token: string, now: Date) {
  return db.transaction(async (tx) => {
    const row = await holdPerson(tx, await personOfLink(tx, token, now))
    if (!row || row.state === 'left' || row.state === 'locked') throw notFound('link')
    return { shownName: row.shownName, name: row.name, joins: row.state === 'invited' }
  })
}

/** Sets the password that a link is for; the link opens nothing any more. @returns whose it was */
export async function takeInvitation(
  db: Database,
  token: string,
  password: string,
  now: Date,
): Promise<string> {
  refuseCommon(password, 'password')
  const passwordHash = await hashPassword(password)
  return db.transaction(async (tx) => {
    const id = await personOfLink(tx, token, now)
    const row = await held(tx, id)
    if (row.state === 'left' || row.state === 'locked') throw notFound('link')
    await endLinks(tx, id, now)
    await tx.update(people).set({ passwordHash, state: 'active' }).where(eq(people.id, id))
    await note(
      tx,
      {
        kind: personJoined,
        payload: { shownName: row.shownName },
        by: id,
        subject: id,
        row: rowOf(id),
      },
      now,
    )
    await tellWindows(tx, { what: 'people' })
    return id
  })
}

/** Name, role, areas and last day. A changed role ends the sessions that were begun with the other. */
export async function changePerson(
  db: Database,
  id: string,
  c: z.output<typeof ChangePerson>,
  by: Person,
  now: Date,
): Promise<RegisteredPerson> {
  return db.transaction(async (tx) => {
    const row = await held(tx, id)
    if (row.state === 'left') throw conflict(`${row.shownName} has left: nothing of it is changed any more.`)
    if (row.role === 'administrator' && (c.role !== 'administrator' || c.until !== null))
      await anotherAdministrator(tx, id)
    const { shownName, role, areas, until } = c
    const areaRoles = keptRoles(c)
    await tx.update(people).set({ shownName, role, areas, areaRoles, until }).where(eq(people.id, id))
    await note(
      tx,
      {
        kind: personChanged,
        payload: { shownName, role, areas, ...(areaRoles && { areaRoles }), until },
        by: by.id,
        subject: id,
        reason: c.reason,
        row: rowOf(id),
      },
      now,
    )
    if (row.role !== role || canonicalJson(row.areaRoles) !== canonicalJson(areaRoles))
      await endSessionsOf(tx, id)
    await tellWindows(tx, { what: 'people' })
    return registered(tx, id, now)
  })
}

const STATE_KINDS = { active: personUnlocked, locked: personLocked, left: personLeft } as const

/** Locks, unlocks, or notes that somebody left. @throws HttpProblem 409 for what cannot be undone */
export async function changeState(
  db: Database,
  id: string,
  { state, reason }: z.output<typeof ChangeState>,
  by: Person,
  now: Date,
): Promise<RegisteredPerson> {
  return db.transaction(async (tx) => {
    const row = await held(tx, id)
    if (row.state === state) return registered(tx, id, now)
    if (row.state === 'left')
      throw conflict(`${row.shownName} has left. Invite the person again under another sign-in name.`)
    if (state === 'active' && row.passwordHash === null && row.provider === null)
      throw conflict(`${row.shownName} has no password yet. Give a new link instead.`)
    if (state !== 'active') {
      if (row.id === by.id) throw conflict('Nobody locks the own account. Ask another administrator.')
      if (row.role === 'administrator') await anotherAdministrator(tx, id)
    }
    await tx.update(people).set({ state }).where(eq(people.id, id))
    const noted = {
      kind: STATE_KINDS[state],
      payload: { shownName: row.shownName },
      by: by.id,
      subject: id,
      reason,
      row: rowOf(id),
    }
    await note(tx, noted, now)
    if (state === 'left') await endKey(tx, row, 'left the plant', by.id, now)
    if (state !== 'active') {
      await endLinks(tx, id, now)
      await endSessionsOf(tx, id)
    }
    await tellWindows(tx, { what: 'people' })
    return registered(tx, id, now)
  })
}

/** The old password opens nothing any more, its key ends, and a link sets a new one. */
export async function resetPassword(
  db: Database,
  id: string,
  reason: string,
  by: Person,
  now: Date,
): Promise<PasswordLink> {
  return db.transaction(async (tx) => {
    const row = await held(tx, id)
    if (row.provider !== null)
      throw conflict(`${row.shownName} signs in by the plant’s own sign-in and has no password here.`)
    if (row.state === 'left' || row.state === 'locked')
      throw conflict(
        `${row.shownName} is ${row.state === 'left' ? 'gone' : 'locked'}: there is nothing to reset.`,
      )
    const link = await makeLink(tx, id, now)
    await tx.update(people).set({ passwordHash: null }).where(eq(people.id, id))
    const { shownName } = row
    await note(
      tx,
      {
        kind: passwordReset,
        payload: { shownName, until: link.until },
        by: by.id,
        subject: id,
        reason,
        row: rowOf(id),
      },
      now,
    )
    await endKey(tx, row, 'the password was reset', by.id, now)
    // Who lost the phone with the password comes in again by the link.
    await endFactor(tx, row, 'the password was reset', by.id, now)
    await endSessionsOf(tx, id)
    await tellWindows(tx, { what: 'people' })
    return link
  })
}

/** Revokes a person's key. @throws HttpProblem 409 where there is none */
export async function revokeKey(
  db: Database,
  id: string,
  reason: string,
  by: Person,
  now: Date,
): Promise<RegisteredPerson> {
  return db.transaction(async (tx) => {
    const row = await held(tx, id)
    if (!(await endKey(tx, row, reason, by.id, now))) throw conflict(`${row.shownName} has no signing key.`)
    await tellWindows(tx, { what: 'people' })
    return registered(tx, id, now)
  })
}

/** Signs a person out everywhere. */
export async function endAllSessions(
  db: Database,
  id: string,
  reason: string,
  by: Person,
  now: Date,
): Promise<RegisteredPerson> {
  return db.transaction(async (tx) => {
    const row = await held(tx, id)
    const sessions = await endSessionsOf(tx, id)
    await note(
      tx,
      {
        kind: signedOut,
        payload: { shownName: row.shownName, sessions, everywhere: true },
        by: by.id,
        subject: id,
        reason,
      },
      now,
    )
    await tellWindows(tx, { what: 'people' })
    return registered(tx, id, now)
  })
}

/** A person of the demo plant, with a key as a browser would have made it. */
export async function addDemoPerson(
  tx: Executor,
  { id, name, shownName, role }: Omit<Person, 'areas'>,
  passwordHash: string,
  key: WrappedKey,
  now: Date,
): Promise<void> {
  await tx.insert(people).values({ id, name, shownName, role, passwordHash, demo: true })
  await note(
    tx,
    { kind: personAdded, payload: { name, shownName, role }, by: null, subject: id, row: rowOf(id) },
    now,
  )
  await beginKey(tx, { id, shownName }, key, null, now)
}
