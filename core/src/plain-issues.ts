// What a schema refuses is told in plain words wherever it says nothing of its own: the validator's English is made for
// programmers. Imported for its effect by whatever makes schemas.
import { z } from 'zod'

type Issue = Parameters<NonNullable<ReturnType<typeof z.config>['customError']>>[0]

const list = (values: readonly unknown[]) => values.map((v) => `“${String(v)}”`).join(', ')
const count = (n: number | bigint, one: string, many: string) => `${n} ${Number(n) === 1 ? one : many}`

const TYPES: Readonly<Record<string, string>> = {
  number: 'This must be a number.',
  int: 'This must be a whole number.',
  string: 'This must be a text.',
  boolean: 'This must be yes or no.',
  array: 'This must be a list.',
  object: 'This must have named values.',
  record: 'This must have named values.',
  tuple: 'This must be a list.',
  date: 'This must be a date.',
  null: 'This must be empty.',
}
const FORMATS: Readonly<Record<string, string>> = {
  uuid: 'This must be an identifier (UUID).',
  date: 'This must be a date, as 2026-11-23.',
  datetime: 'This must be a time, as 2026-11-23T08:30:00Z.',
  email: 'This must be an e-mail address.',
  url: 'This must be a web address.',
}

/** A sentence for what a schema refused. */
export function sayIssue(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      if (issue.input === undefined) return 'This is missing.'
      if (issue.input === Infinity || issue.input === -Infinity) return 'This number is too large.'
      return TYPES[issue.expected] ?? 'This is not what belongs here.'
    case 'too_small':
      if (issue.origin === 'string')
        return issue.minimum === 1
          ? 'This must not be empty.'
          : `At least ${count(issue.minimum, 'character', 'characters')}.`
      if (issue.origin === 'array' || issue.origin === 'set')
        return `At least ${count(issue.minimum, 'entry', 'entries')}.`
      return issue.inclusive === false
        ? `This must be more than ${issue.minimum}.`
        : `This must be ${issue.minimum} or more.`
    case 'too_big':
      if (issue.origin === 'string') return `At most ${count(issue.maximum, 'character', 'characters')}.`
      if (issue.origin === 'array' || issue.origin === 'set')
        return `At most ${count(issue.maximum, 'entry', 'entries')}.`
      return issue.inclusive === false
        ? `This must be less than ${issue.maximum}.`
        : `This must be ${issue.maximum} or less.`
    case 'invalid_value':
      return issue.values.length === 1
        ? `This must be ${list(issue.values)}.`
        : `This must be one of ${list(issue.values)}.`
    case 'invalid_format':
      return FORMATS[issue.format] ?? 'This is not written as it must be.'
    case 'unrecognized_keys':
      return `${issue.keys.length === 1 ? 'This does' : 'These do'} not belong here: ${list(issue.keys)}.`
    case 'not_multiple_of':
      return `This must be a multiple of ${issue.divisor}.`
    case 'invalid_key':
      return 'A name in it is not one of those that are possible.'
    case 'invalid_union':
    case 'invalid_element':
    case 'custom':
      return 'This is not one of the values that are possible here.'
  }
}

z.config({ customError: sayIssue })
