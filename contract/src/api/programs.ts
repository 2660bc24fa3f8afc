import { z } from 'zod'
import { MadeToken, MadeWebhook, NewToken, NewWebhook, SqlView, Token, Webhook } from '../programs.ts'
import { programs } from './addresses.ts'
import { ADMINISTRATORS, OVERSEERS, type Endpoint } from './endpoint.ts'

export const programsApi = {
  [programs.tokens]: {
    says: 'Tokens of the plant’s other programs; a token opens by the head “Authorization: Bearer …”',
    allow: OVERSEERS,
    answer: z.array(Token),
  },
  [programs.makeToken]: {
    says: 'A new token; its secret is told once',
    allow: ADMINISTRATORS,
    body: NewToken,
    answer: MadeToken,
    status: 201,
  },
  [programs.endToken]: {
    says: 'A token opens nothing any more',
    allow: ADMINISTRATORS,
    params: z.object({ token: z.uuid() }),
    answer: z.array(Token),
    problems: ['not-found', 'conflict'],
  },
  [programs.webhooks]: {
    says: 'Addresses that are told what is recorded',
    allow: OVERSEERS,
    answer: z.array(Webhook),
  },
  [programs.beginWebhook]: {
    says: 'Tell an address what is recorded from now on; the secret that signs it is told once',
    allow: ADMINISTRATORS,
    body: NewWebhook,
    answer: MadeWebhook,
    status: 201,
  },
  [programs.endWebhook]: {
    says: 'Tell an address nothing any more',
    allow: ADMINISTRATORS,
    params: z.object({ webhook: z.uuid() }),
    answer: z.array(Webhook),
    problems: ['not-found', 'conflict'],
  },
  [programs.views]: {
    says: 'Views of the database for programs that read it, with their columns',
    allow: OVERSEERS,
    answer: z.array(SqlView),
  },
  [programs.calendar]: {
    says: 'When loops and instruments are due, for calendar programs, by a token in the address',
    allow: 'anyone',
    query: z.object({
      token: z.string().max(200).optional(),
      area: z.string().trim().max(80).optional(),
      /** Only loops that are assigned to somebody of this name. */
      assignee: z.string().trim().max(80).optional(),
      /** The plan of the coming week in place of due days. */
      plan: z.literal('yes').optional(),
      /** Of the plan only what this person does or helps with. */
      person: z.uuid().optional(),
    }),
    answer: 'text/calendar',
    problems: ['sign-in'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
