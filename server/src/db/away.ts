/** Connection lost or refused, no room, stopped while at work, only readable, or held up by another. */
const DATABASE_AWAY = /^(08|53|57P0|57014|25006|40001|40P01|55P03)/
const NOT_REACHED = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT'])
/** A socket that is not there; a file that is not there says nothing of the database. */
const isMissingSocket = (code: unknown, syscall: unknown) => code === 'ENOENT' && syscall === 'connect'
/** Words of the database's driver for which it has no code. */
const AWAY_WORDS =
  /Connection terminated|not queryable|timeout exceeded when trying to connect|Query read timeout|Client was closed/i

/** The whole chain of causes, outermost first: database libraries wrap what really happened. */
function causes(error: unknown): unknown[] {
  const out: unknown[] = []
  for (let e = error; e !== undefined && e !== null && out.length < 6; e = (e as { cause?: unknown }).cause)
    out.push(e)
  return out
}

/** No room on the disk, or none left for a file of the database. */
const DISK_FULL = '53100'

/** Whether an error says that nothing more can be stored: the same works again once somebody has made room. */
export const diskIsFull = (error: unknown): boolean =>
  causes(error).some((e) => (e as { code?: unknown }).code === DISK_FULL)

/** Whether an error says that the database is away, or could not do it now: the same may work a moment later. */
export function databaseIsGone(error: unknown): boolean {
  return causes(error).some((e) => {
    const { code, message, syscall } = e as { code?: unknown; message?: unknown; syscall?: unknown }
    if (isMissingSocket(code, syscall)) return true
    // A body that broke off has one of these codes too, but no word of a database: the parser's errors are told before.
    if (typeof code === 'string' && (DATABASE_AWAY.test(code) || NOT_REACHED.has(code))) return true
    return typeof message === 'string' && AWAY_WORDS.test(message)
  })
}
