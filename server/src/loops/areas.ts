import { WORKERS } from '@calm/contract/api/endpoint'
import type { Person } from '@calm/contract/people'
import { roleIn, sameEverywhere, worksAs, type Role } from '@calm/core/signing/roles'
import type { Executor } from '../db/connection.ts'
import { notAllowed } from '../http/problems.ts'
import { whichLoop } from '../record/append.ts'
import { loops } from '../record/schema.ts'

/**
 * @param allow - the roles that may
 * @throws HttpProblem 403 where somebody looks on in this area alone
 */
export function refuseArea(person: Person, area: string, allow: readonly Role[] = WORKERS): void {
  if (!sameEverywhere(person) && !allow.includes(roleIn(person, area))) throw looksOn(person, area)
}

const looksOn = (person: Person, area: string) =>
  notAllowed(`${sayWhere(person, area)} look on in ${area}. Ask an administrator.`)

/** Where somebody works, as far as it is told for some areas; the one that is asked for is another. */
function sayWhere({ areas, areaRoles }: Person, area: string): string {
  const worked = Object.entries(areaRoles).flatMap(([a, role]) => (worksAs(role) ? [a] : []))
  const where = [...new Set([...areas, ...worked])].filter((a) => a !== area)
  return where.length === 0 ? 'You' : `You work in ${where.join(', ')} and`
}

/**
 * Somebody as they are on a loop: the role of its area counts.
 * @throws HttpProblem 403 where they look on there alone
 */
export async function personOnLoop(db: Executor, person: Person, idOrTag: string): Promise<Person> {
  if (sameEverywhere(person)) return person
  const [loop] = await db.select({ area: loops.area }).from(loops).where(whichLoop(idOrTag))
  if (!loop) return person
  const role = roleIn(person, loop.area)
  if (role === 'viewer' && person.role !== 'viewer') throw looksOn(person, loop.area)
  return { ...person, role }
}
