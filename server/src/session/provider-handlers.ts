import { session } from '@calm/contract/api/addresses'
import { signedIn, signInFailed } from '@calm/core/record/plant-log/kinds/sign-ins'
import { parseCookie } from 'cookie'
import type { Request, Response } from 'express'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { notFound } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { personFrom, type KeptOut } from './elsewhere.ts'
import type { Identity, OnItsWay, Provider } from './provider.ts'
import { beginSession } from './session.ts'

/** Sent along by the browser that comes back from another site, which the session's own cookie is not. */
const WAY_COOKIE = 'calm.way'
const WAY_MS = 600_000
const WAY_PATH = '/api/session/provider'
const Way = z.object({ state: z.string(), nonce: z.string(), verifier: z.string() })

/** away: the sign-in does not answer; answer: it said no, or what came back is not what was asked for. */
type NotIn = KeptOut | 'away' | 'answer'
const WHY: Readonly<Record<KeptOut, string>> = {
  role: 'the plant’s own sign-in tells no role',
  taken: 'the name is somebody else’s here',
  first: 'the plant has no administrator yet',
  locked: 'locked, gone or past the last day',
}

function wayOf(req: Request): OnItsWay | null {
  try {
    return Way.parse(JSON.parse(parseCookie(req.headers.cookie ?? '')[WAY_COOKIE] ?? ''))
  } catch {
    return null
  }
}

/** Sign-in by the plant's own provider. @param cookie - name of the session's cookie, which tells whether all is https */
export function providerHandlers(
  db: Database,
  clock: Clock,
  provider: Provider | null,
  cookie: string,
): Bound[] {
  const options = {
    ...{ httpOnly: true, path: WAY_PATH, sameSite: 'lax' as const },
    secure: cookie.startsWith('__Host-'),
  }
  const notIn = (res: Response, why: NotIn): null => {
    res.redirect(303, `/sign-in?elsewhere=${why}`)
    return null
  }
  /** Only of whom the provider knows: what anybody can send writes nothing into the plant's log. */
  async function keptOut(req: Request, res: Response, why: KeptOut, name: string): Promise<null> {
    const payload = { name, address: (req.ip ?? '').slice(0, 60), why: WHY[why] }
    await note(db, { kind: signInFailed, payload, by: null }, clock())
    return notIn(res, why)
  }
  return [
    bind(session.provider, () => ({ name: provider?.name ?? null })),
    bind(session.toProvider, async ({ req, res }) => {
      if (!provider) throw notFound('sign-in')
      const way = await provider.go().catch((error: unknown) => {
        req.log.warn(error)
        return null
      })
      if (!way) return notIn(res, 'away')
      res.cookie(WAY_COOKIE, JSON.stringify(way.keeps), { ...options, maxAge: WAY_MS })
      res.redirect(303, way.to.href)
      return null
    }),
    bind(session.fromProvider, async ({ req, res }) => {
      if (!provider) throw notFound('sign-in')
      const kept = wayOf(req)
      // Once: whoever sends the same answer again has nothing to show with it.
      res.clearCookie(WAY_COOKIE, options)
      const query = new URL(req.originalUrl, 'http://here').search
      const who: Identity | null =
        kept &&
        (await provider.back(query, kept).catch((error: unknown) => {
          req.log.warn(error)
          return null
        }))
      if (!who) return notIn(res, 'answer')
      const now = clock()
      const person = await db.transaction((tx) => personFrom(tx, who, now))
      if (typeof person === 'string') return keptOut(req, res, person, who.name)
      await beginSession(req, person.id)
      const payload = { shownName: person.shownName, address: (req.ip ?? '').slice(0, 60) }
      await note(db, { kind: signedIn, payload, by: person.id, subject: person.id }, clock())
      res.redirect(303, '/')
      return null
    }),
  ]
}
