import { Person } from '@calm/contract/people'
import { z } from 'zod'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, type Endpoint } from '../http/endpoint.ts'
import { allPeople } from './store.ts'

export const peopleRoutes = (db: Database): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/people',
    summary: 'Who works here',
    allow: EVERYONE,
    response: z.array(Person),
    handle: () => allPeople(db),
  }),
]
