import type { z } from 'zod'
import type { Address, PathNames } from './addresses.ts'
import { calculationsApi } from './calculations.ts'
import { devicesApi } from './devices.ts'
import type { Endpoint } from './endpoint.ts'
import { equipmentApi } from './equipment.ts'
import { comparisonsApi, inputsApi } from './inputs.ts'
import { loopListApi, packagesApi } from './loop-list.ts'
import { logsApi } from './logs.ts'
import { loopsApi } from './loops.ts'
import { ownPartsApi } from './own-parts.ts'
import { peopleApi } from './people.ts'
import { plantApi } from './plant.ts'
import { plantLogApi } from './plant-log.ts'
import { runsApi } from './runs.ts'
import { sensorsApi } from './sensors.ts'
import { workshopApi } from './workshop.ts'
import { sessionApi } from './session.ts'
import { programsApi } from './programs.ts'
import { settingsApi } from './settings.ts'
import { surveysApi } from './surveys.ts'
import { systemApi } from './system.ts'
import { todayApi } from './today.ts'

/** Everything that the server answers and a page may ask for: the one door between them. */
export const API = {
  ...sessionApi,
  ...systemApi,
  ...peopleApi,
  ...plantLogApi,
  ...equipmentApi,
  ...ownPartsApi,
  ...sensorsApi,
  ...workshopApi,
  ...programsApi,
  ...settingsApi,
  ...loopsApi,
  ...plantApi,
  ...runsApi,
  ...comparisonsApi,
  ...inputsApi,
  ...devicesApi,
  ...packagesApi,
  ...loopListApi,
  ...logsApi,
  ...surveysApi,
  ...todayApi,
  ...calculationsApi,
} as const satisfies Readonly<Record<Address, Endpoint>>

export type Api = typeof API

type OutputOf<S> = S extends z.ZodType ? z.output<S> : undefined

/** What a handler is given. */
export type ParamsOf<A extends Address> = Api[A] extends { params: infer P } ? OutputOf<P> : undefined
export type QueryOf<A extends Address> = Api[A] extends { query: infer Q } ? OutputOf<Q> : undefined
export type BodyOf<A extends Address> = Api[A] extends { body: infer B }
  ? B extends string
    ? Uint8Array
    : OutputOf<B>
  : undefined
/** What a handler gives; it answers files and streams itself. */
export type GivenOf<A extends Address> = Api[A]['answer'] extends z.ZodType
  ? z.input<Api[A]['answer']>
  : unknown

/** What a page gives: names of the path, and of the query where it likes; a body where there is one, or a file. */
export type NamedOf<A extends Address> = Readonly<Record<PathNames<A>, string>> &
  (Api[A] extends { query: infer Q } ? Readonly<Partial<OutputOf<Q>>> : unknown)
export type SentOf<A extends Address, Archive> = Api[A] extends { body: infer B }
  ? B extends z.ZodType
    ? z.input<B>
    : Archive
  : undefined
/** What a page is answered. */
export type AnswerOf<A extends Address> = OutputOf<Api[A]['answer']>
