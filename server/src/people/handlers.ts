import type { Database } from '../db/connection.ts'
import { people } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { allPeople } from './store.ts'

export const peopleHandlers = (db: Database): Bound[] => [bind(people.list, () => allPeople(db))]
