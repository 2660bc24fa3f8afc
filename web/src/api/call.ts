import { partsOf, urlOf, type Address, type Method } from '@calm/contract/api/addresses'
import type { AnswerOf, NamedOf, SentOf } from '@calm/contract/api/api'
import { WINDOW_HEADER } from '@calm/contract/api/news'
import type { Problem } from '@calm/contract/problem'
import { hearServerTime } from './clock.ts'
import { WINDOW } from './window.ts'

const TYPED_AGAIN: readonly string[] = ['urn:calm-loop:wrong-sign-in', 'urn:calm-loop:second-factor']

/** A failure as the server told it, or that the server was not reached (status 0). */
export class ApiProblem extends Error {
  readonly status: number
  readonly problem: Partial<Problem> & Record<string, unknown>
  constructor(status: number, problem: Partial<Problem> & Record<string, unknown>) {
    super(typeof problem.title === 'string' ? problem.title : 'Something went wrong in Calm Loop.')
    this.status = status
    this.problem = problem
  }
  /** Nothing was stored and the same thing may work a moment later. */
  get passing(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504
  }
  /** The session is over, or another person's: what is written here waits for its own person. */
  get signedOut(): boolean {
    // A wrong password or code that somebody typed again ends nothing.
    const typed = TYPED_AGAIN.includes(String(this.problem.type))
    return (this.status === 401 && !typed) || this.problem.type === 'urn:calm-loop:another-person'
  }
  /** What is wrong with the field at this path. */
  at(path: string): string | null {
    return this.problem.errors?.find((e) => e.path === path)?.says ?? null
  }
}

/** Whoever asked did not want it any more. */
export class GivenUp extends Error {}

type Listener = () => void
const signedOut = new Set<Listener>()
/** Told whenever the server says that the session is over, or that it is another person's now. */
export const onSignedOut = (listener: Listener): void => void signedOut.add(listener)

/** Whose name this page shows; every write carries it, so that none goes under another one. */
let shownPersonId: string | null = null
export const showPerson = (id: string | null): void => void (shownPersonId = id)

/** A server that has not answered for this long will not; what was typed is kept. */
const ANSWER_MS = 30_000
const UPLOAD_MS = 180_000

type Sent<A extends Address> = SentOf<A, File>
/** A body is given where there is one. */
type Rest<A extends Address> =
  Sent<A> extends undefined ? [body?: undefined, given?: AbortSignal] : [body: Sent<A>, given?: AbortSignal]

function init(method: Method, path: string, body: unknown, given?: AbortSignal): RequestInit {
  const file = body instanceof File
  return {
    method,
    credentials: 'same-origin',
    headers: {
      [WINDOW_HEADER]: WINDOW,
      ...(body === undefined ? {} : { 'Content-Type': file ? 'application/zip' : 'application/json' }),
      ...(method === 'GET' || shownPersonId === null || path === SESSION
        ? {}
        : { 'X-Calm-Person': shownPersonId }),
    },
    signal: AbortSignal.any([
      AbortSignal.timeout(file || given ? UPLOAD_MS : ANSWER_MS),
      ...(given ? [given] : []),
    ]),
    ...(body === undefined ? {} : { body: file ? body : JSON.stringify(body) }),
  }
}

const SESSION = '/api/session'

/** Why nothing came, or not all of it. */
function notReached(error: unknown, given?: AbortSignal): Error {
  if (given?.aborted) return new GivenUp()
  return new ApiProblem(0, {
    title:
      error instanceof DOMException && error.name === 'TimeoutError'
        ? 'The server does not answer. What you typed is kept here.'
        : 'The server cannot be reached. What you typed is kept here.',
  })
}

type Written = (address: Address, named: Readonly<Record<string, unknown>>, answer: unknown) => void
const written = new Set<Written>()
/** Told of everything that was asked for here and may have changed something. */
export const onWritten = (listener: Written): void => void written.add(listener)

async function ask<A extends Address>(
  address: A,
  named: NamedOf<A>,
  body: unknown,
  given?: AbortSignal,
): Promise<Response> {
  const { method } = partsOf(address)
  const url = urlOf(address, named)
  const res = await fetch(url, init(method, url, body, given)).catch((error: unknown) => {
    throw notReached(error, given)
  })
  hearServerTime(res.headers.get('date'))
  if (res.ok) return res
  const problem = new ApiProblem(res.status, (await res.json().catch(() => ({}))) as Partial<Problem>)
  if (problem.signedOut && url !== SESSION) for (const listener of signedOut) listener()
  throw problem
}

/**
 * Asks the server at an address of the contract: what is given and what is answered are what the contract says.
 * @param named - names of the path, and those of the query that are wanted
 * @param given - gives it up; what takes long may then take its time
 * @throws ApiProblem for every failure, also when the server cannot be reached or does not answer
 * @throws GivenUp when it was
 */
export async function call<A extends Address>(
  address: A,
  named: NamedOf<A>,
  ...[body, given]: Rest<A>
): Promise<AnswerOf<A>> {
  const res = await ask(address, named, body, given)
  // Checked by the server against the same schema on its way out.
  const told = (
    res.status === 204
      ? null
      : // An answer that breaks off in the middle is none: its beginning was never meant to be used.
        await res.json().catch((error: unknown) => {
          throw notReached(error, given)
        })
  ) as AnswerOf<A>
  if (partsOf(address).method !== 'GET') for (const listener of written) listener(address, named, told)
  return told
}

/** Asks for a file that is long in the making. @throws as `call` does */
export async function callFile<A extends Address>(
  address: A,
  named: NamedOf<A>,
  given: AbortSignal,
): Promise<Blob> {
  try {
    return await (await ask(address, named, undefined, given)).blob()
  } catch (error) {
    throw given.aborted ? new GivenUp() : error
  }
}

/** A sentence for any failure. */
export const sayProblem = (error: unknown): string =>
  error instanceof ApiProblem
    ? [error.message, ...(error.problem.errors ?? []).map((e) => e.says)]
        .filter((s, i, all) => all.indexOf(s) === i)
        .join(' ')
    : 'Something went wrong in Calm Loop. What you typed is still here.'
