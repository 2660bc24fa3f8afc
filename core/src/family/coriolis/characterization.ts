import type { Finding } from '../../finding.ts'
import { parseNumber } from '../../quantity/parse-number.ts'
import { entryFix } from '../entry-fix.ts'
import { keysOf } from '../../quantity/setting.ts'
import { compareTyped, splitText, type Slip } from './keying.ts'
import { DOCUMENTS, ROLES, type DocumentKind, type Role } from './roles.ts'
import type { Entries } from './settings.ts'

const SLIP_SAYS: Readonly<Record<Slip, string>> = {
  SAME: '',
  SAME_VALUE: 'the same value with decimals lost',
  DECIMAL_SHIFT: 'the decimal point has moved',
  TRANSPOSED: 'two neighbouring digits are exchanged',
  DIGIT_CHANGED: 'one digit differs',
  DIGIT_DROPPED: 'one digit is missing',
  DIGIT_ADDED: 'there is one digit too many',
  DIFFERENT: 'they are different numbers',
}

/** What this tag calls a constant, else what it is in physics. */
export const nameOf = (s: Entries, role: Role): string =>
  s[`${role}_name`].trim() === '' ? ROLES[role].title : s[`${role}_name`].trim()
const typedIn = (s: Entries, role: Role, document: DocumentKind): string => s[`${role}_${document}`].trim()

/** The text that counts for a row: the certificate, else the tag, else the device; with where it stands. */
function counting(
  s: Entries,
  role: Role,
): { readonly document: DocumentKind; readonly typed: string } | null {
  for (const document of keysOf(DOCUMENTS)) {
    const typed = typedIn(s, role, document)
    if (typed !== '') return { document, typed }
  }
  return null
}

export interface Constant {
  readonly typed: string
  readonly value: number
}
/** The constants by their role, joined texts taken apart; and what cannot be read. */
export function constantsOf(s: Entries): {
  readonly constants: Readonly<Partial<Record<Role, Constant>>>
  readonly findings: readonly Finding[]
} {
  const constants: Partial<Record<Role, Constant>> = {}
  const findings: Finding[] = []
  const put = (role: Role, typed: string, where: string) => {
    const n = parseNumber(typed)
    if (n.kind === 'number') constants[role] = { typed, value: n.value }
    else
      findings.push({
        code: 'CONSTANT_UNREADABLE',
        severity: 'stop',
        where: [where],
        says: `${nameOf(s, role)}: “${typed}” is not one number. Are two constants written together? Then say so below, with the place where the second begins.`,
      })
  }
  for (const role of keysOf(ROLES)) {
    const found = counting(s, role)
    if (!found) continue
    const where = `${role}_${found.document}`
    if (s.joined !== role) {
      put(role, found.typed, where)
      continue
    }
    const split = splitText(found.typed, Math.round(s.splitAfter))
    if (split.kind === 'refused')
      findings.push({ code: 'SPLIT', severity: 'stop', where: [where, 'splitAfter'], says: split.says })
    else {
      put(role, split.first, where)
      put(s.joinedWith, split.second, where)
    }
  }
  if (s.joined !== 'none' && s.joined === s.joinedWith)
    findings.push({
      code: 'SPLIT_ROLES',
      severity: 'stop',
      where: ['joinedWith'],
      says: 'Both parts of the joined text are the same constant. Say what the second one is.',
    })
  else if (s.joined !== 'none' && counting(s, s.joinedWith))
    findings.push({
      code: 'SPLIT_TWICE',
      severity: 'warn',
      where: [`${s.joinedWith}_certificate`],
      says: `${nameOf(s, s.joinedWith)} stands in the joined text and in a row of its own. Leave one of them empty.`,
    })
  return { constants, findings }
}

/** Two rows of one document that carry each other's constants, by the document that counts first. */
function exchanged(s: Entries): { readonly roles: readonly [Role, Role]; readonly document: DocumentKind }[] {
  const roles = keysOf(ROLES)
  return (['tag', 'device'] as const).flatMap((document) =>
    roles.flatMap((a, i) =>
      roles.slice(i + 1).flatMap((b) => {
        const [first, second] = [counting(s, a), counting(s, b)]
        const [at, bt] = [typedIn(s, a, document), typedIn(s, b, document)]
        return first &&
          second &&
          first.document !== document &&
          second.document !== document &&
          at !== bt &&
          at === second.typed &&
          bt === first.typed
          ? [{ roles: [a, b] as const, document }]
          : []
      }),
    ),
  )
}

/** Each row's documents against each other, digit by digit; a joined text is compared as a whole. */
export function comparisons(s: Entries): Finding[] {
  const swaps = exchanged(s)
  return [
    ...swaps.map(({ roles: [a, b], document }): Finding => {
      const where = [`${a}_${document}`, `${b}_${document}`]
      return {
        code: 'ROWS_EXCHANGED',
        severity: 'stop',
        where,
        says: `In the ${DOCUMENTS[document].title} ${nameOf(s, a)} and ${nameOf(s, b)} are exchanged: each has the other’s number.`,
        fix: entryFix('Exchange them', {
          [where[0] ?? '']: typedIn(s, b, document),
          [where[1] ?? '']: typedIn(s, a, document),
        }),
      }
    }),
    ...rowComparisons(s).filter(
      (f) => !swaps.some(({ roles, document }) => roles.some((r) => f.where.includes(`${r}_${document}`))),
    ),
  ]
}
const rowComparisons = (s: Entries): Finding[] =>
  keysOf(ROLES).flatMap((role): Finding[] => {
    const given = keysOf(DOCUMENTS)
      .map((document) => ({ document, typed: typedIn(s, role, document) }))
      .filter((x) => x.typed !== '')
    const [first, ...others] = given
    if (!first) return []
    return others.flatMap((o): Finding[] => {
      const told = compareTyped(first.typed.replace(',', '.'), o.typed.replace(',', '.'))
      if (told.slip === 'SAME') return []
      const places = Math.abs(told.power ?? 0)
      return [
        {
          code: told.slip,
          severity: told.slip === 'SAME_VALUE' ? 'warn' : 'stop',
          where: [`${role}_${o.document}`],
          says: `${nameOf(s, role)}: the ${DOCUMENTS[first.document].title} says ${first.typed}, the ${DOCUMENTS[o.document].title} says ${o.typed}; ${SLIP_SAYS[told.slip]}${places > 0 ? ` by ${places} ${places === 1 ? 'place' : 'places'}` : ''}.`,
          rule: 'digit by digit, spaces trimmed',
        },
      ]
    })
  })
