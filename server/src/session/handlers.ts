import { session } from '@calm/contract/api/addresses'
import type { DemoSignIn, Person } from '@calm/contract/people'
import { passwordChanged } from '@calm/core/record/plant-log/kinds/people'
import { signatureFailed } from '@calm/core/record/plant-log/kinds/keys'
import { signedIn, signedOut, signInFailed } from '@calm/core/record/plant-log/kinds/sign-ins'
import { wrapProofText } from '@calm/core/record/signing/wrap-proof'
import { eq } from 'drizzle-orm'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { conflict, HttpProblem, notFound, wrongValues } from '../http/problems.ts'
import { beginKey, keyOf, wrapAnew } from '../people/keys.ts'
import { hashPassword, isPassword, refuseCommon } from '../people/passwords.ts'
import { people } from '../people/schema.ts'
import { checkCode, confirmFactor, endFactor, factorOf, offerFactor } from '../people/second-factor.ts'
import { allPeople, personWithHash, signsInElsewhere } from '../people/store.ts'
import { note } from '../plant-log/note.ts'
import { signedBy } from '../plant-log/plant-key.ts'
import { noteTry, refuseGuesses, takeTry, type Tried } from './limits.ts'
import { beginSession, endNamed, endSession, endSessionsOf, openSessions } from './session.ts'

type Found = Awaited<ReturnType<typeof personWithHash>>

/** Why somebody with the right password may not come in all the same; null where nothing is against it. */
function keptOut(found: NonNullable<Found>, isDemo: boolean, today: string): string | null {
  if (found.demo && !isDemo) return 'This is somebody of the demo plant, who signs in there only.'
  if (found.state === 'locked') return 'This account is locked. Ask an administrator.'
  if (found.state === 'left') return 'This account is closed: its person has left.'
  if (found.until !== null && found.until < today)
    return `This account ended on ${found.until}. Ask an administrator.`
  return null
}

export const sessionHandlers = (
  db: Database,
  clock: Clock,
  demo: readonly DemoSignIn[],
  cookie: string,
): Bound[] => {
  async function failed(tried: Tried, found: Found, why: string): Promise<void> {
    const payload = { name: tried.name, address: tried.address.slice(0, 60), why }
    const subject = found ? { subject: found.id } : {}
    await note(db, { kind: signInFailed, payload, by: null, ...subject }, clock())
  }
  /** @throws HttpProblem 401, after the try was counted */
  async function checked(
    tried: Tried,
    password: string,
    code: 'not asked' | { readonly typed: string | undefined } = 'not asked',
  ): Promise<NonNullable<Found>> {
    await takeTry(db, tried)
    const found = await personWithHash(db, tried.name)
    const right = await isPassword(found?.passwordHash ?? null, password)
    const factor =
      found && right && code !== 'not asked'
        ? await checkCode(db, found.person, code.typed, tried.at)
        : 'none'
    // Neither right nor wrong yet: the try counts until the code is there.
    if (factor === 'asked')
      throw new HttpProblem('second-factor', 'Type the code that your phone shows now, or a recovery code.')
    const through = found && right && factor !== 'wrong'
    await noteTry(db, tried, through ? 'right' : 'wrong')
    if (through) return found
    const why = factor === 'wrong' ? 'wrong time code' : 'wrong name or password'
    await failed(tried, found, why)
    if (factor === 'wrong')
      throw new HttpProblem(
        'second-factor',
        'This is not a code of now, or it was used already. Wait for the next one.',
      )
    throw new HttpProblem(
      'wrong-sign-in',
      code === 'not asked' ? 'This is not your password.' : 'Wrong name or password.',
    )
  }
  const openOf = (person: Person, here: string) => openSessions(db, person.id, here)
  return [
    // Only who is here: a plant of one's own in the same database is no demo.
    bind(session.demo, async () => {
      const here = new Set((await allPeople(db)).map((p) => p.name))
      return demo.filter((p) => here.has(p.name))
    }),
    bind(session.one, async ({ person }) => {
      if (person.id !== '') return { person, first: false }
      const [somebody] = await db.select({ id: people.id }).from(people).limit(1)
      return { person: null, first: somebody === undefined }
    }),
    bind(session.signIn, async ({ body, req }) => {
      const tried = { name: body.name.toLowerCase(), address: req.ip ?? '', at: clock() }
      const found = await checked(tried, body.password, { typed: body.code })
      const out = keptOut(found, demo.length > 0, clock().toISOString().slice(0, 10))
      if (out !== null) {
        await failed(tried, found, out)
        throw new HttpProblem('wrong-sign-in', out)
      }
      await beginSession(req, found.id)
      const payload = { shownName: found.shownName, address: tried.address.slice(0, 60) }
      await note(db, { kind: signedIn, payload, by: found.id, subject: found.id }, clock())
      return { person: found.person, first: false }
    }),
    bind(session.signOut, async ({ req, res, person }) => {
      await endSession(db, req)
      if (person.id !== '')
        await note(
          db,
          {
            kind: signedOut,
            payload: { shownName: person.shownName, sessions: 1, everywhere: false },
            by: person.id,
            subject: person.id,
          },
          clock(),
        )
      res.clearCookie(cookie, { secure: cookie.startsWith('__Host-') })
      return null
    }),
    bind(session.signOutEverywhere, async ({ person, res }) => {
      const ended = await endSessionsOf(db, person.id)
      await note(
        db,
        {
          kind: signedOut,
          payload: { shownName: person.shownName, sessions: ended, everywhere: true },
          by: person.id,
          subject: person.id,
        },
        clock(),
      )
      res.clearCookie(cookie, { secure: cookie.startsWith('__Host-') })
      return { ended }
    }),
    bind(session.open, ({ person, req }) => openOf(person, req.sessionID)),
    bind(session.endOpen, async ({ params, person, req }) => {
      if (!(await endNamed(db, person.id, params.session))) throw notFound('session')
      return openOf(person, req.sessionID)
    }),
    bind(session.changePassword, async ({ body, person, req }) => {
      const found = await checked({ name: person.name, address: req.ip ?? '', at: clock() }, body.now)
      refuseCommon(body.next, 'next')
      const passwordHash = await hashPassword(body.next)
      const now = clock()
      return db.transaction(async (tx) => {
        await tx.update(people).set({ passwordHash }).where(eq(people.id, person.id))
        await note(
          tx,
          {
            kind: passwordChanged,
            payload: { shownName: found.shownName },
            by: person.id,
            subject: person.id,
            row: { table: 'people', key: person.id },
          },
          now,
        )
        const key = await keyOf(tx, person.id)
        // A key that stayed under the old password would be lost with it.
        if (key && !body.key)
          throw new HttpProblem(
            'conflict',
            'There is a signing key: it goes under the new password too. Reload the page.',
          )
        if (body.key)
          await (key ? wrapAnew(tx, found, body.key, now) : beginKey(tx, found, body.key, person.id, now))
        return { ended: await endSessionsOf(tx, person.id, req.sessionID) }
      })
    }),
    bind(session.key, async ({ person }) => {
      await refuseGuesses(db, person.id, clock())
      return { key: await keyOf(db, person.id), signsInElsewhere: await signsInElsewhere(db, person.id) }
    }),
    bind(session.noteFailure, async ({ body, person }) => {
      const payload = { shownName: person.shownName, tag: body.tag, why: 'wrong password' }
      await note(db, { kind: signatureFailed, payload, by: person.id, subject: person.id }, clock())
      return null
    }),
    bind(session.factor, ({ person }) => factorOf(db, person.id)),
    bind(session.offerFactor, async ({ body, person, req }) => {
      await checked({ name: person.name, address: req.ip ?? '', at: clock() }, body.password)
      const offer = await offerFactor(db, person)
      req.session.offered = offer.secret
      return offer
    }),
    bind(session.confirmFactor, async ({ body, person, req }) => {
      const codes = await confirmFactor(db, person, req.session.offered, body.code, clock())
      delete req.session.offered
      return { codes }
    }),
    bind(session.endFactor, async ({ body, person, req }) => {
      const at = clock()
      await checked({ name: person.name, address: req.ip ?? '', at }, body.password)
      await db.transaction(async (tx) => {
        if (!(await endFactor(tx, person, 'ended by the person', person.id, at)))
          throw conflict('There is no second factor.')
      })
      return factorOf(db, person.id)
    }),
    bind(session.wrapKey, async ({ body: { proof, ...key }, person }) => {
      // Elsewhere a password is at hand, and is asked for: there the key goes under the new one with it.
      if (!(await signsInElsewhere(db, person.id)))
        throw conflict('Your key opens by the password that you sign in with. Change that.')
      await refuseGuesses(db, person.id, clock())
      if (!signedBy(key.publicKey, wrapProofText(person.id, key), proof))
        throw wrongValues([
          { path: 'proof', says: 'The key did not sign this. Open it by its password and try again.' },
        ])
      return db.transaction(async (tx) => {
        await wrapAnew(tx, person, key, clock())
        return { key: await keyOf(tx, person.id) }
      })
    }),
    bind(session.beginKey, async ({ body, person }) =>
      db.transaction(async (tx) => {
        await beginKey(tx, person, body, person.id, clock())
        return { key: await keyOf(tx, person.id) }
      }),
    ),
  ]
}
