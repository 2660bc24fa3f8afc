import { PROBLEM_STATUS, problemType, type ProblemCode } from '@calm/contract/problem'
import type { ErrorRequestHandler, Request, RequestHandler } from 'express'
import { z } from 'zod'
import { databaseIsGone, diskIsFull } from '../db/away.ts'

/** A failure that a client can understand; everything else becomes 500 without details. */
export class HttpProblem extends Error {
  readonly code: ProblemCode
  readonly errors: readonly { readonly path: string; readonly says: string; readonly code?: string }[]
  readonly extra: Readonly<Record<string, unknown>>
  constructor(
    code: ProblemCode,
    says: string,
    errors: HttpProblem['errors'] = [],
    extra: Readonly<Record<string, unknown>> = {},
  ) {
    super(says)
    this.code = code
    this.errors = errors
    this.extra = extra
  }
}

export const notFound = (what: string) => new HttpProblem('not-found', `There is no such ${what}.`)
export const notAllowed = (says: string, extra: Readonly<Record<string, unknown>> = {}) =>
  new HttpProblem('not-allowed', says, [], extra)
export const conflict = (says: string, extra: Readonly<Record<string, unknown>> = {}) =>
  new HttpProblem('conflict', says, [], extra)

export const busy = () =>
  new HttpProblem('busy', 'Too much is being computed at once. Wait a moment, then try again.')
/** Something that no page of ours sends: not read any further. */
export const unreadable = (path: string, says: string) =>
  new HttpProblem('unreadable', 'The request cannot be read.', [{ path, says }])
/** Values that cannot be used, each with its path. */
export const wrongValues = (
  errors: HttpProblem['errors'],
  says = 'Some values cannot be used.',
  extra: Readonly<Record<string, unknown>> = {},
) => new HttpProblem('wrong-values', says, errors, extra)

/** Every wrong value by its path. */
export const invalid = (error: z.ZodError) =>
  wrongValues(error.issues.map((i) => ({ path: i.path.join('.'), says: i.message })))

interface Told {
  readonly code: ProblemCode
  readonly says: string
  readonly errors?: HttpProblem['errors']
  readonly extra?: Readonly<Record<string, unknown>>
}

/** Where the text stops being JSON, in the parser's own words. */
const sayParser = (error: unknown): string =>
  error instanceof SyntaxError ? `Not JSON: ${error.message.slice(0, 120)}.` : 'It broke off, or is not JSON.'

function tell(error: unknown): Told {
  if (error instanceof HttpProblem)
    return {
      code: error.code,
      says: error.message,
      errors: error.errors,
      extra: error.extra,
    }
  if (error instanceof z.ZodError) return tell(invalid(error))
  const parser = error as { type?: unknown; status?: unknown }
  if (parser.type === 'entity.too.large')
    return { code: 'too-large', says: 'This is more than can be sent at once.' }
  if (typeof parser.type === 'string' && parser.status === 400)
    return {
      code: 'unreadable',
      says: 'The request is not readable JSON.',
      errors: [{ path: '', says: sayParser(error) }],
    }
  if (parser.status === 404) return { code: 'not-found', says: 'There is no such file. Reload the page.' }
  if (parser.status === 415) return { code: 'unknown-encoding', says: 'This encoding is not understood.' }
  if (error instanceof URIError) return { code: 'unreadable', says: 'The address is not readable.' }
  if (diskIsFull(error))
    return {
      code: 'no-room',
      says: 'The disk of the server is full: nothing of this was stored. Make room there, then send it again.',
    }
  if (databaseIsGone(error))
    return {
      code: 'database-away',
      says: 'The database does not answer. Send it again: what is stored already is not stored twice.',
    }
  return {
    code: 'our-fault',
    says: 'Something went wrong in Calm Loop. What you typed is still with you.',
  }
}

function sendProblem(req: Request, res: Parameters<RequestHandler>[1], told: Told): void {
  const status = PROBLEM_STATUS[told.code]
  res
    .status(status)
    .type('application/problem+json')
    .send(
      JSON.stringify({
        type: problemType(told.code),
        title: told.says,
        status,
        ...(told.errors && told.errors.length > 0 ? { errors: told.errors } : {}),
        ...told.extra,
        requestId: req.id,
      }),
    )
}

/** The one place where failures become HTTP. */
export const problemHandler: ErrorRequestHandler = (error: unknown, req, res, next) => {
  const told = tell(error)
  const status = PROBLEM_STATUS[told.code]
  // What was given up because whoever asked has gone is no failure, and nobody hears of it.
  if (told.code === 'busy' && res.closed) return
  if (status >= 500) req.log.error({ err: error }, told.says)
  if (res.headersSent) {
    next(error)
    return
  }
  if (status === 503 || status === 429) res.set('Retry-After', '2')
  sendProblem(req, res, told)
}
