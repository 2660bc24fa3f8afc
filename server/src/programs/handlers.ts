import { programs } from '@calm/contract/api/addresses'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { HttpProblem } from '../http/problems.ts'
import { weekCalendar } from '../today/outward.ts'
import type { Pool } from '../work/pool.ts'
import { calendarOf } from './calendar.ts'
import { allTokens, endToken, makeToken, tokenOf } from './tokens.ts'
import { allViews } from './views.ts'
import { allWebhooks, beginWebhook, endWebhook } from './webhooks.ts'

/** What the plant's other programs are given. */
export const programHandlers = (db: Database, pool: Pool, clock: Clock): Bound[] => [
  bind(programs.tokens, () => allTokens(db)),
  bind(programs.makeToken, ({ body, person }) => makeToken(db, body, person, clock())),
  bind(programs.endToken, ({ params, person }) => endToken(db, params.token, person, clock())),
  bind(programs.webhooks, () => allWebhooks(db)),
  bind(programs.beginWebhook, ({ body, person }) => beginWebhook(db, body, person, clock())),
  bind(programs.endWebhook, ({ params, person }) => endWebhook(db, params.webhook, person, clock())),
  bind(programs.views, () => allViews(db)),
  bind(programs.calendar, async ({ query, person, res, gone }) => {
    // Calendar programs send no heads: the token stands in the address.
    const byToken = query.token === undefined ? null : await tokenOf(db, query.token, clock())
    if (!byToken && person.name === '')
      throw new HttpProblem('sign-in', 'This calendar opens by a token in its address: ?token=…')
    const text =
      query.plan === undefined
        ? await calendarOf(db, clock(), query)
        : await weekCalendar(db, pool, query, clock(), gone)
    res.type('text/calendar; charset=utf-8').send(text)
  }),
]
