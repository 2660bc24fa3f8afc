import { clientBehind, type Executor } from './connection.ts'

interface Built<R> {
  readonly prepare: (name: string) => { readonly execute: (values: Record<string, unknown>) => Promise<R> }
}

/**
 * A statement that is asked many times a second: its text is made once for a database, or once for each client that has
 * transactions, and the database itself plans it once a connection. What changes in it stands as `sql.placeholder(…)`.
 * @param name - of the statement in the database, one of its kind
 */
export function prepared<R>(
  name: string,
  build: (db: Executor) => Built<R>,
): (db: Executor, values: Record<string, unknown>) => Promise<R> {
  const made = new WeakMap<Executor, ReturnType<Built<R>['prepare']>>()
  return (asked, values) => {
    const db = clientBehind(asked)
    const here = made.get(db) ?? build(db).prepare(name)
    made.set(db, here)
    return here.execute(values)
  }
}
