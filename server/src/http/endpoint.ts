import { API, type BodyOf, type GivenOf, type ParamsOf, type QueryOf } from '@calm/contract/api/api'
import { partsOf, type Address } from '@calm/contract/api/addresses'
import { WINDOW_HEADER } from '@calm/contract/api/news'
import type { Endpoint } from '@calm/contract/api/endpoint'
import type { Person } from '@calm/contract/people'
import { rolesAnywhere, sameEverywhere } from '@calm/core/signing/roles'
import { unstorableIn } from '@calm/core/record/storable'
import { Router, type Request, type RequestHandler, type Response } from 'express'
import '@calm/core/plain-issues'
import { z } from 'zod'
import { askedBy } from './live.ts'
import { HttpProblem, invalid, wrongValues } from './problems.ts'

export interface Context<P, Q, B> {
  readonly params: P
  readonly query: Q
  readonly body: B
  /** Who asks; for endpoints open to anyone this may be nobody. */
  readonly person: Person
  readonly req: Request
  readonly res: Response
  /** Whoever asked has gone: what is worked out for them need not be. */
  readonly gone: AbortSignal
}

/** What answers at an address of the contract. */
export interface Bound {
  readonly address: Address
  readonly handle: (c: Context<never, never, never>) => unknown
}

/** Ties a handler to its address: what it gets and gives is what the contract says of it. */
export function bind<A extends Address>(
  address: A,
  handle: (c: Context<ParamsOf<A>, QueryOf<A>, BodyOf<A>>) => GivenOf<A> | Promise<GivenOf<A>>,
): Bound {
  return { address, handle }
}

const NOBODY: Person = { id: '', name: '', shownName: '', role: 'viewer', areas: [], areaRoles: {} }
const METHODS = { GET: 'get', POST: 'post', PUT: 'put', DELETE: 'delete' } as const

function parse(schema: z.ZodType | undefined, value: unknown): unknown {
  if (!schema) return undefined
  const parsed = schema.safeParse(value)
  if (!parsed.success) throw invalid(parsed.error)
  return parsed.data
}

function parseBody(e: Endpoint, body: unknown): unknown {
  if (e.body === undefined) return undefined
  if (typeof e.body === 'string') {
    if (Buffer.isBuffer(body)) return body
    throw wrongValues([{ path: '', says: `Send it as ${e.body}.` }])
  }
  // Text and numbers that a database cannot hold are refused with their path.
  const wrong = unstorableIn(body)
  if (wrong) throw wrongValues([wrong])
  return parse(e.body, body)
}

/** Who may not ask is told so before anything of theirs is read. */
function refuseOthers(e: Endpoint, person: Person | null): void {
  if (e.allow === 'anyone') return
  if (!person) throw new HttpProblem('sign-in', 'Please sign in. What you typed is kept.')
  const roles = e.byArea === true ? rolesAnywhere(person) : [person.role]
  if (!e.allow.some((r) => roles.includes(r)))
    throw new HttpProblem('not-allowed', `A ${person.role} may not do this. Ask a ${e.allow.join(' or ')}.`)
}

function goneOf(res: Response): AbortSignal {
  const gone = new AbortController()
  res.once('close', () => {
    // Closed after the whole answer is no reason: to make one is dear, and every request would.
    if (!res.writableFinished) gone.abort()
  })
  return gone.signal
}

/** The loop that an address names, by its tag or identifier. */
const loopIn = (params: unknown): string => String((params as Readonly<Record<string, unknown>>)['loop'])

/** Name of the file that an answer is to be kept as; null for what is only looked at. */
function fileIn(res: Response): string | null {
  const told = String(res.getHeader('Content-Disposition') ?? '')
  if (res.statusCode !== 200 || !told.startsWith('attachment')) return null
  const [, coded] = /filename\*=UTF-8''([^;]+)/.exec(told) ?? []
  const [, plain] = /filename="?([^";]+)"?/.exec(told) ?? []
  return coded === undefined ? (plain ?? 'a file') : decodeURIComponent(coded)
}

export interface Door {
  /** Who is signed in. */
  readonly personOf: (req: Request) => Promise<Person | null>
  /** Somebody as they are on a loop that they would change; refuses who looks on in its area. */
  readonly personOnLoop: (person: Person, loop: string) => Promise<Person>
  /** A file left the house: a paper, a list, samples. */
  readonly fileLeft: (address: Address, file: string, person: Person) => Promise<void>
  /** Reads the body of a request to an endpoint. */
  readonly reads: (e: Endpoint) => readonly RequestHandler[]
}

/**
 * A router of everything in the contract.
 * @throws Error where something of it has no handler, or two
 */
export function routerOf(all: readonly Bound[], { personOf, personOnLoop, fileLeft, reads }: Door): Router {
  const addresses = new Set(all.map((b) => b.address))
  const missing = Object.keys(API).filter((a) => !addresses.has(a as Address))
  if (missing.length > 0 || addresses.size !== all.length)
    throw new Error(`each address has one handler; missing: ${missing.join(', ')}`)
  const router = Router({ caseSensitive: true })
  for (const { address, handle } of all) {
    const e: Endpoint = API[address]
    const { method, path } = partsOf(address)
    router[METHODS[method]](
      path,
      async (req, res, next) => {
        const who = await personOf(req)
        const byArea = who !== null && !sameEverywhere(who) && method !== 'GET' && 'loop' in req.params
        const person = byArea ? await personOnLoop(who, loopIn(parse(e.params, req.params))) : who
        refuseOthers(e, person)
        res.locals['person'] = person ?? NOBODY
        next()
      },
      ...reads(e),
      async (req, res) => {
        const params = parse(e.params, req.params)
        const query = parse(e.query, req.query)
        const body = parseBody(e, req.body)
        const person = res.locals['person'] as Person
        const gone = goneOf(res)
        const context = { params, query, body, person, req, res, gone } as Context<never, never, never>
        const result = await askedBy(req.get(WINDOW_HEADER), () => handle(context))
        const file = method === 'GET' && res.headersSent ? fileIn(res) : null
        if (file !== null) await fileLeft(address, file, person)
        if (res.headersSent) return
        if (e.status === 204) {
          res.status(204).end()
          return
        }
        // Through the schema on the way out too: what it does not name stays here.
        res
          .status(e.status ?? res.statusCode)
          .json(typeof e.answer === 'string' ? result : e.answer.parse(result))
      },
    )
  }
  return router
}
