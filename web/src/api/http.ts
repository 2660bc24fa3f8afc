import type { Problem } from '@calm/contract/problem'

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
  get signedOut(): boolean {
    return this.status === 401
  }
  /** What is wrong with the field at this path. */
  at(path: string): string | null {
    return this.problem.errors?.find((e) => e.path === path)?.says ?? null
  }
}

type Listener = () => void
const signedOut = new Set<Listener>()
/** Told whenever the server says that the session is over. */
export const onSignedOut = (listener: Listener): void => void signedOut.add(listener)

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
      headers:
        body === undefined
          ? {}
          : { 'Content-Type': body instanceof File ? 'application/zip' : 'application/json' },
      ...(body === undefined ? {} : { body: body instanceof File ? body : JSON.stringify(body) }),
    })
  } catch {
    throw new ApiProblem(0, { title: 'The server cannot be reached. What you typed is kept here.' })
  }
  if (res.status === 204) return undefined as T
  const told: unknown = await res.json().catch(() => ({}))
  if (res.ok) return told as T
  if (res.status === 401 && path !== '/api/session') for (const listener of signedOut) listener()
  throw new ApiProblem(res.status, told as Partial<Problem>)
}

/** A sentence for any failure. */
export const sayProblem = (error: unknown): string =>
  error instanceof ApiProblem
    ? [error.message, ...(error.problem.errors ?? []).map((e) => e.says)]
        .filter((s, i, all) => all.indexOf(s) === i)
        .join(' ')
    : 'Something of ours went wrong. What you typed is still here.'
