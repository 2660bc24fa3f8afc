import { ADDRESSES, partsOf, type Address, type Method } from '@calm/contract/api/addresses'
import { API } from '@calm/contract/api/api'
import { problemsOf, type Endpoint } from '@calm/contract/api/endpoint'
import { Problem, PROBLEM_STATUS, type ProblemCode } from '@calm/contract/problem'
import { CATALOGUE } from '@calm/core/catalogue'
import { z } from 'zod'
import { version } from '../version.ts'
import { PERSON_HEADER } from './security.ts'

type Json = Readonly<Record<string, unknown>>

/** A schema as JSON Schema, in the direction in which it travels. */
const json = (schema: z.ZodType, io: 'input' | 'output'): Json => {
  const told: Json = z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline' })
  return Object.fromEntries(Object.entries(told).filter(([key]) => key !== '$schema'))
}

const RESOURCES: Readonly<Record<keyof typeof ADDRESSES, string>> = {
  session: 'Who is signed in',
  system: 'The server itself',
  people: 'Who works here',
  programs: 'What the plant’s other programs are given: tokens, webhooks, the calendar of due days, views',
  plantLog: 'What happened outside the loops, and how far the record has come',
  settings: 'What a plant decided once, and how each person wants the screens',
  ownParts: 'Parts of the plant’s own',
  sensors: 'Sensors as things: pairs, probes, kits',
  workshop: 'A sensor on the link of the workshop, without a loop',
  equipment: 'Instruments with their certificates',
  loops: 'Loops, their documents and their records',
  plant: 'The whole plant at once',
  runs: 'Verifications and procedures',
  comparisons: 'Readings compared with a reference',
  inputs: 'Discrete inputs',
  devices: 'The simulated stand-in devices and their configurations',
  packages: 'A loop as one file',
  loopList: 'The plant’s list in and out',
  today: 'Jobs, the plan of a day, the kit, what became of it',
  logs: 'Measured logs: read in, drawn, judged, compared',
  surveys: 'Places measured with a portable meter, each in the record of its loop',
  calculations: 'Everything that can be computed, by name',
}

const STATUS_SAYS: Readonly<Record<number, string>> = {
  400: 'Not readable',
  401: 'Nobody is signed in, or name and password are wrong',
  403: 'Not allowed',
  404: 'Not here',
  409: 'It does not fit what is stored',
  413: 'Too large',
  415: 'Not understood',
  421: 'Another host name',
  422: 'Some values cannot be used; each with its path',
  429: 'Too much at once; wait a moment',
  500: 'A fault of ours',
  503: 'The database does not answer; send it again',
}

/** Failures by status, each with the codes that its type may end in. */
function failures(codes: readonly ProblemCode[]): Json {
  const byStatus = new Map<number, ProblemCode[]>()
  for (const code of codes)
    byStatus.set(PROBLEM_STATUS[code], [...(byStatus.get(PROBLEM_STATUS[code]) ?? []), code])
  return Object.fromEntries(
    [...byStatus].map(([status, of]) => [
      status,
      {
        description: `${STATUS_SAYS[status] ?? 'Refused'}: ${of.join(', ')}`,
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    ]),
  )
}

function parametersOf(e: Endpoint, path: string, method: Method): readonly Json[] {
  const named = (schema: z.ZodObject | undefined, where: 'path' | 'query') =>
    Object.entries(schema?.shape ?? {}).map(([name, one]) => ({
      name,
      in: where,
      required: where === 'path',
      schema: json(one as z.ZodType, 'input'),
    }))
  return [
    ...named(e.params, 'path').filter((p) => path.includes(`{${p.name}}`)),
    ...named(e.query, 'query'),
    ...(method === 'GET' || e.allow === 'anyone' ? [] : [{ $ref: '#/components/parameters/Person' }]),
  ]
}

function answersOf(e: Endpoint, says: string): Json {
  const content =
    typeof e.answer === 'string'
      ? { [e.answer]: { schema: { type: 'string' } } }
      : { 'application/json': { schema: json(e.answer, 'output') } }
  if (e.status === 204) return { 204: { description: 'Done' } }
  if (e.status === 303) return { 303: { description: 'A browser goes on elsewhere' } }
  const done = { [e.status ?? 200]: { description: says, content } }
  return e.also === undefined
    ? done
    : { ...done, [e.also]: { description: 'The same, and not well', content } }
}

interface Named {
  readonly id: string
  readonly tag: string
  readonly method: Method
  readonly path: string
}

function operation(e: Endpoint, { id, tag, method, path }: Named): Json {
  return {
    operationId: id,
    tags: [tag],
    summary: e.says,
    ...(e.allow === 'anyone' ? { security: [] } : {}),
    'x-roles': e.allow,
    parameters: parametersOf(e, path, method),
    ...(e.body === undefined
      ? {}
      : {
          requestBody: {
            required: true,
            content:
              typeof e.body === 'string'
                ? { [e.body]: { schema: { type: 'string', format: 'binary' } } }
                : { 'application/json': { schema: json(e.body, 'input') } },
          },
        }),
    responses: { ...failures(problemsOf(e, method)), ...answersOf(e, e.says) },
  }
}

/** One operation an address; a calculation is one of its own, with its own schemas. */
function* operations(): Generator<Named & { readonly endpoint: Endpoint }> {
  for (const [tag, group] of Object.entries(ADDRESSES))
    for (const [name, address] of Object.entries<Address>(group)) {
      const endpoint: Endpoint = API[address]
      const { method, path } = partsOf(address)
      if (!path.endsWith('/:name'))
        yield { id: `${tag}.${name}`, tag, method, path: path.replace(/:(\w+)/g, '{$1}'), endpoint }
      else
        for (const c of CATALOGUE)
          yield {
            id: `${tag}.${c.name}`,
            tag,
            method,
            path: path.replace(':name', c.name),
            endpoint: { ...endpoint, says: `${c.title} (${c.source})`, body: c.input, answer: c.output },
          }
    }
}

/** The description of everything the server answers, made from the schemas it checks with. */
export function openApi(): Record<string, unknown> {
  const paths: Record<string, Record<string, Json>> = {}
  for (const { endpoint, ...named } of operations())
    paths[named.path] = { ...paths[named.path], [named.method.toLowerCase()]: operation(endpoint, named) }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Calm Loop',
      version,
      description: 'The workbench of a process instrumentation technician.',
      license: { name: 'MIT', identifier: 'MIT' },
    },
    servers: [{ url: '/', description: 'Where this description was asked for' }],
    security: [{ session: [] }, { token: [] }],
    tags: Object.entries(RESOURCES).map(([name, description]) => ({ name, description })),
    paths,
    components: {
      securitySchemes: {
        session: {
          type: 'apiKey',
          in: 'cookie',
          name: 'calm.sid',
          description:
            'Set by a sign-in; kept from scripts. `__Host-calm.sid` where everything goes by https.',
        },
        token: {
          type: 'http',
          scheme: 'bearer',
          description: 'A token of a program: it looks, and changes nothing.',
        },
      },
      parameters: {
        Person: {
          name: PERSON_HEADER,
          in: 'header',
          required: false,
          description: 'Who the page shows as signed in; a write under another name is refused.',
          schema: { type: 'string', format: 'uuid' },
        },
      },
      schemas: { Problem: json(Problem, 'output') },
    },
  }
}
