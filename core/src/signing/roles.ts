/**
 * administrator: people, keys and rules, and signs nothing; technician: does the work and signs it; reviewer: also
 * countersigns; planner: plans the work; viewer: only looks.
 */
export const ROLES = ['administrator', 'technician', 'reviewer', 'planner', 'viewer'] as const
export type Role = (typeof ROLES)[number]
/** What somebody can be in one area alone. */
export const AREA_ROLES = ['technician', 'reviewer', 'planner', 'viewer'] as const
export type AreaRole = (typeof AREA_ROLES)[number]

/** Whom the plant knows: a role, where it holds, and areas with another one. */
export interface Roled {
  readonly role: Role
  /** Where this person works, and only looks elsewhere; empty: everywhere. */
  readonly areas: readonly string[]
  /** Areas in which the role is another one, whether they are among those or not. */
  readonly areaRoles: Readonly<Record<string, AreaRole>>
}

/** As what somebody works on the loops of an area. */
export function roleIn({ role, areas, areaRoles }: Roled, area: string): Role {
  // Who decides about people and rules signs nothing, whatever was told before.
  const own = role !== 'administrator' && Object.hasOwn(areaRoles, area) ? areaRoles[area] : undefined
  if (own !== undefined) return own
  return areas.length === 0 || areas.includes(area) ? role : 'viewer'
}

/** Whether somebody's role is the same on every loop. */
export const sameEverywhere = ({ areas, areaRoles }: Pick<Roled, 'areas' | 'areaRoles'>): boolean =>
  areas.length === 0 && Object.keys(areaRoles).length === 0

const WORKS: readonly Role[] = ['technician', 'reviewer']
/** Whether a role does work on loops, and signs it. */
export const worksAs = (role: Role): boolean => WORKS.includes(role)
/** The roles that somebody has anywhere in the plant. */
export const rolesAnywhere = ({ role, areaRoles }: Pick<Roled, 'role' | 'areaRoles'>): readonly Role[] =>
  role === 'administrator' ? [role] : [role, ...Object.values(areaRoles)]
/** Whether somebody signs work anywhere. */
export const signsAnywhere = (person: Pick<Roled, 'role' | 'areaRoles'>): boolean =>
  rolesAnywhere(person).some(worksAs)

/** Where somebody works, in words, with the areas in which the role is another one. */
export const sayAreas = ({ areas, areaRoles }: Pick<Roled, 'areas' | 'areaRoles'>): string =>
  [
    areas.length === 0 ? 'everywhere' : areas.join(', '),
    ...Object.entries(areaRoles).map(([area, role]) => `${role} in ${area}`),
  ].join('; ')
