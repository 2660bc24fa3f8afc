import type { Person, Role } from '@calm/contract/people'
import { unstorableIn } from '@calm/contract/recorded'
import { Router, type Request, type Response } from 'express'
import { z } from 'zod'
import { HttpProblem, invalid } from './problems.ts'

type Maybe<S> = S extends z.ZodType ? z.output<S> : undefined

export interface Context<P, Q, B> {
  readonly params: P
  readonly query: Q
  readonly body: B
  /** Who asks; for endpoints open to anyone this may be nobody. */
  readonly person: Person
  readonly req: Request
  readonly res: Response
}

/** One thing the server answers: who may ask, what comes in, what goes out. Nothing is open by default. */
export interface Endpoint {
  readonly method: 'get' | 'post' | 'put' | 'delete'
  readonly path: string
  readonly summary: string
  readonly allow: 'anyone' | readonly Role[]
  readonly params?: z.ZodType
  readonly query?: z.ZodType
  readonly body?: z.ZodType
  /** A schema for JSON, or the media type of what is sent instead. */
  readonly response: z.ZodType | string
  readonly status?: number
  /** Answers the request itself (a stream, a file). */
  readonly handle: (c: Context<never, never, never>) => unknown
}

/** Ties the schemas of an endpoint to what its handler gets and gives. */
export function endpoint<
  P extends z.ZodType | undefined,
  Q extends z.ZodType | undefined,
  B extends z.ZodType | undefined,
  R extends z.ZodType | string,
>(e: {
  method: Endpoint['method']
  path: string
  summary: string
  allow: Endpoint['allow']
  params?: P
  query?: Q
  body?: B
  response: R
  status?: number
  handle: (
    c: Context<Maybe<P>, Maybe<Q>, Maybe<B>>,
  ) => R extends z.ZodType ? Promise<z.input<R>> | z.input<R> : Promise<void> | void
}): Endpoint {
  // An absent schema is undefined for the handler; the wider type only forgets what was checked here.
  return e
}

export const EVERYONE: readonly Role[] = ['technician', 'reviewer', 'viewer']
export const WORKERS: readonly Role[] = ['technician', 'reviewer']

const NOBODY: Person = { id: '', name: '', shownName: '', role: 'viewer' }

function parse(schema: z.ZodType | undefined, value: unknown): unknown {
  if (!schema) return undefined
  const parsed = schema.safeParse(value)
  if (!parsed.success) throw invalid(parsed.error)
  return parsed.data
}

/** Text and numbers that a database cannot hold are refused with their path. */
function refuseUnstorable(value: unknown): void {
  const wrong = unstorableIn(value)
  if (wrong) throw new HttpProblem(422, 'wrong-values', 'Some values cannot be used.', [wrong])
}

/** A router of endpoints. `personOf` finds who is signed in. */
export function routerOf(
  endpoints: readonly Endpoint[],
  personOf: (req: Request) => Promise<Person | null>,
): Router {
  const router = Router({ caseSensitive: true })
  for (const e of endpoints)
    router[e.method](e.path, async (req, res) => {
      const person = await personOf(req)
      if (e.allow !== 'anyone') {
        if (!person) throw new HttpProblem(401, 'sign-in', 'Please sign in. What you typed is kept.')
        if (!e.allow.includes(person.role))
          throw new HttpProblem(
            403,
            'not-allowed',
            `A ${person.role} may not do this. Ask a ${e.allow.join(' or ')}.`,
          )
      }
      const params = parse(e.params, req.params)
      const query = parse(e.query, req.query)
      if (e.body) refuseUnstorable(req.body)
      const body = parse(e.body, req.body)
      const result = await e.handle({ params, query, body, person: person ?? NOBODY, req, res } as Context<
        never,
        never,
        never
      >)
      if (res.headersSent) return
      if (e.status === 204) {
        res.status(204).end()
        return
      }
      // Through the schema on the way out too: what it does not name stays here.
      res
        .status(e.status ?? res.statusCode)
        .json(typeof e.response === 'string' ? result : e.response.parse(result))
    })
  return router
}
