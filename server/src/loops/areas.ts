import type { Person } from '@calm/contract/people'
import type { Executor } from '../db/connection.ts'
import { notAllowed } from '../http/problems.ts'
import { whichLoop } from '../record/append.ts'
import { loops } from '../record/schema.ts'

const sayAreas = (areas: readonly string[]) => areas.join(', ')

/** @throws HttpProblem 403 where somebody who works in some areas would change another one */
export function refuseArea({ areas }: Pick<Person, 'areas'>, area: string): void {
  if (areas.length > 0 && !areas.includes(area))
    throw notAllowed(`You work in ${sayAreas(areas)} and look on in ${area}. Ask an administrator.`)
}

/** The same for a loop that is here. */
export async function refuseOtherArea(db: Executor, person: Person, idOrTag: string): Promise<void> {
  const [loop] = await db.select({ area: loops.area }).from(loops).where(whichLoop(idOrTag))
  if (loop) refuseArea(person, loop.area)
}
