import type { Problem } from '@calm/contract/problem'
import { hearServerTime } from './clock.ts'

/** A failure as the server told it, or that the server was not reached (status 0). */
export class ApiProblem extends Error {
  readonly status: number
  readonly problem: Partial<Problem> & Record<string, unknown>
  constructor(status: number, problem: Partial<Problem> & Record<string, unknown>) {
    super(typeof problem.title === 'string' ? problem.title : 'Something of ours went wrong.')
    this.status = status
    this.problem = problem
  }
  /** Nothing was stored and the same thing may work a moment later. */
  get passing(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504
  }
  /** The session is over, or another person's: what is written here waits for its own person. */
  get signedOut(): boolean {
    return this.status === 401 || this.problem.type === 'urn:calm-loop:another-person'
  }
  /** What is wrong with the field at this path. */
  at(path: string): string | null {
    return this.problem.errors?.find((e) => e.path === path)?.says ?? null
  }
}

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

const SESSION = '/api/session'

/**
 * Asks the server; a file is sent as the archive it is. Answers are shaped by the contract, whose schemas the server checks on its way out.
 * @throws ApiProblem for every failure, also when the server cannot be reached.
 */
export async function api<T>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
): Promise<T> {
  let res: Response
  try {
    res = await fetch(path, {
      method,
      credentials: 'same-origin',
      headers: {
        ...(body === undefined
          ? {}
          : { 'Content-Type': body instanceof File ? 'application/zip' : 'application/json' }),
        ...(method === 'GET' || shownPersonId === null || path === SESSION
          ? {}
          : { 'X-Calm-Person': shownPersonId }),
      },
      signal: AbortSignal.timeout(body instanceof File ? UPLOAD_MS : ANSWER_MS),
      ...(body === undefined ? {} : { body: body instanceof File ? body : JSON.stringify(body) }),
    })
  } catch (error) {
    throw new ApiProblem(0, {
      title:
        error instanceof DOMException && error.name === 'TimeoutError'
          ? 'The server does not answer. What you typed is kept here.'
          : 'The server cannot be reached. What you typed is kept here.',
    })
  }
  hearServerTime(res.headers.get('date'))
  if (res.status === 204) return undefined as T
  const told: unknown = await res.json().catch(() => ({}))
  if (res.ok) return told as T
  const problem = new ApiProblem(res.status, told as Partial<Problem>)
  if (problem.signedOut && path !== SESSION) for (const listener of signedOut) listener()
  throw problem
}

/** A sentence for any failure. */
export const sayProblem = (error: unknown): string =>
  error instanceof ApiProblem
    ? [error.message, ...(error.problem.errors ?? []).map((e) => e.says)]
        .filter((s, i, all) => all.indexOf(s) === i)
        .join(' ')
    : 'Something of ours went wrong. What you typed is still here.'
