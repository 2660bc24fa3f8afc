/**
 * A function of plain data that is worked out once for each content: the same value, however it was read, gives the same
 * result. What was not asked for longest is let go.
 * @param most - results that are kept
 */
export function onceByContent<A, R>(most: number, work: (of: A) => R): (of: A) => R {
  const kept = new Map<string, R>()
  return (of) => {
    const key = JSON.stringify(of)
    const here = kept.get(key)
    const result = here ?? work(of)
    kept.delete(key)
    kept.set(key, result)
    const [oldest] = kept.keys()
    if (kept.size > most && oldest !== undefined) kept.delete(oldest)
    return result
  }
}
