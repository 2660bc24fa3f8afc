import { z } from 'zod'
import { plantKind } from './plant-kind.ts'

const name = z.string().max(120)
const role = z.string().max(30)
/** What areas somebody works in, in words. */
const inAreas = (areas: readonly string[]) => (areas.length === 0 ? '' : ` in ${areas.join(', ')}`)

const areaRoles = z.record(z.string().max(60), role).optional()
/** In which areas the role is another one, in words. */
const asElsewhere = (roles: z.output<typeof areaRoles>) =>
  Object.entries(roles ?? {})
    .map(([area, as]) => `, ${as} in ${area}`)
    .join('')

export const personAdded = plantKind({
  type: 'person.added',
  group: 'people',
  payload: z.strictObject({ shownName: name, name, role }),
  title: 'Person added',
  says: (p) => `${p.shownName} (${p.name}) works here as ${p.role}.`,
})
export const personCame = plantKind({
  type: 'person.came',
  group: 'people',
  payload: z.strictObject({ shownName: name, name, role }),
  title: 'Person came by the plant’s own sign-in',
  says: (p) =>
    `${p.shownName} (${p.name}) signed in by the plant’s own sign-in for the first time, as ${p.role}.`,
})
export const personInvited = plantKind({
  type: 'person.invited',
  group: 'people',
  payload: z.strictObject({
    shownName: name,
    name,
    role,
    areas: z.array(z.string().max(60)).max(60),
    areaRoles,
    until: z.string().max(30),
  }),
  title: 'Person invited',
  says: (p) =>
    `${p.shownName} (${p.name}) was invited as ${p.role}${inAreas(p.areas)}${asElsewhere(p.areaRoles)}; the link is good until ${p.until}.`,
})
export const personJoined = plantKind({
  type: 'person.joined',
  group: 'people',
  payload: z.strictObject({ shownName: name }),
  title: 'Invitation taken up',
  says: (p) => `${p.shownName} set a password and works here from now on.`,
})
export const personChanged = plantKind({
  type: 'person.changed',
  group: 'people',
  payload: z.strictObject({
    shownName: name,
    role,
    areas: z.array(z.string().max(60)).max(60),
    areaRoles,
    until: z.string().max(30).nullable(),
  }),
  title: 'Person changed',
  says: (p) =>
    `${p.shownName} is ${p.role}${inAreas(p.areas)}${asElsewhere(p.areaRoles)}${p.until === null ? '' : ` until ${p.until}`}.`,
})
export const personLocked = plantKind({
  type: 'person.locked',
  group: 'people',
  payload: z.strictObject({ shownName: name }),
  title: 'Locked',
  says: (p) => `${p.shownName} cannot sign in until unlocked.`,
})
export const personUnlocked = plantKind({
  type: 'person.unlocked',
  group: 'people',
  payload: z.strictObject({ shownName: name }),
  title: 'Unlocked',
  says: (p) => `${p.shownName} may sign in again.`,
})
export const personLeft = plantKind({
  type: 'person.left',
  group: 'people',
  payload: z.strictObject({ shownName: name }),
  title: 'Left',
  says: (p) => `${p.shownName} no longer works here. The name stays on every record.`,
})
export const passwordChanged = plantKind({
  type: 'password.changed',
  group: 'people',
  payload: z.strictObject({ shownName: name }),
  title: 'Password changed',
  says: (p) => `${p.shownName} set a new password; every other session ended.`,
})
export const factorBegun = plantKind({
  type: 'factor.begun',
  group: 'people',
  payload: z.strictObject({ shownName: name }),
  title: 'Second factor begun',
  says: (p) => `${p.shownName} signs in with a time code too from now on.`,
})
export const factorRecovered = plantKind({
  type: 'factor.recovered',
  group: 'people',
  payload: z.strictObject({ shownName: name, left: z.int().min(0) }),
  title: 'Recovery code used',
  says: (p) => `${p.shownName} signed in with a recovery code; ${p.left} are left.`,
})
export const factorEnded = plantKind({
  type: 'factor.ended',
  group: 'people',
  payload: z.strictObject({ shownName: name, why: z.string().max(120) }),
  title: 'Second factor ended',
  says: (p) => `${p.shownName} signs in by the password alone: ${p.why}.`,
})
export const passwordReset = plantKind({
  type: 'password.reset',
  group: 'people',
  payload: z.strictObject({ shownName: name, until: z.string().max(30) }),
  title: 'Password reset',
  says: (p) =>
    `The password of ${p.shownName} opens nothing any more; the link for a new one is good until ${p.until}.`,
})
