import { CATALOGUE } from '@calm/core/catalogue'
import { z } from 'zod'
import type { Endpoint } from './endpoint.ts'

const json = (schema: z.ZodType, io: 'input' | 'output') =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any' })

const PROBLEM = {
  description: 'What went wrong, with the path of each wrong value',
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
}

function operation(e: Endpoint, summary: string, body: z.ZodType | undefined, response: z.ZodType | string) {
  const names = [...e.path.matchAll(/:(\w+)/g)].map((m) => m[1] ?? '')
  return {
    summary,
    'x-roles': e.allow,
    parameters: names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
    ...(body
      ? { requestBody: { required: true, content: { 'application/json': { schema: json(body, 'input') } } } }
      : {}),
    responses: {
      [String(e.status ?? 200)]:
        e.status === 204
          ? { description: 'Done' }
          : typeof response === 'string'
            ? { description: summary, content: { [response]: {} } }
            : { description: summary, content: { 'application/json': { schema: json(response, 'output') } } },
      default: PROBLEM,
    },
  }
}

/** The description of everything the server answers, made from the schemas it checks with. */
export function openApiOf(endpoints: readonly Endpoint[], problem: z.ZodType): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const e of endpoints) {
    if (e.path === '/api/calc/:name') {
      for (const c of CATALOGUE)
        paths[`/api/calc/${c.name}`] = {
          post: { ...operation({ ...e, path: '' }, `${c.title} (${c.source})`, c.input, c.output) },
        }
      continue
    }
    const path = e.path.replace(/:(\w+)/g, '{$1}')
    paths[path] = { ...paths[path], [e.method]: operation(e, e.summary, e.body, e.response) }
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Calm Loop',
      version: '1',
      description: 'The workbench of a process instrumentation technician.',
    },
    components: { schemas: { Problem: json(problem, 'output') } },
    paths,
  }
}
