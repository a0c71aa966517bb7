// The OpenAPI 3.1 description of the HTTP interface, made from the same schemas that check every message.
import { CALCULATORS } from '@calm-loop/core/calculators'
import { z } from 'zod'
import { endpoints, type Endpoint } from './endpoints.ts'
import { Problem } from './primitives.ts'

type Json = Record<string, unknown>

function schemaOf(type: z.ZodType, io: 'input' | 'output' = 'input'): Json {
  const { $schema: _, ...schema } = z.toJSONSchema(type, { io, unrepresentable: 'any' }) as Json
  return schema
}

function parameters(type: z.ZodType, where: 'path' | 'query'): Json[] {
  const schema = schemaOf(type) as { properties?: Json; required?: string[] }
  return Object.entries(schema.properties ?? {}).map(([name, property]) => ({
    name,
    in: where,
    required: where === 'path' || (schema.required?.includes(name) ?? false),
    schema: property,
  }))
}

function operation(name: string, e: Endpoint): Json {
  const hasBody = !(e.body instanceof z.ZodUndefined)
  const hasAnswer = !(e.response instanceof z.ZodUndefined)
  return {
    operationId: name,
    summary: e.summary,
    description: `May be called by: ${e.access}.${e.method === 'put' ? ' Idempotent by the id in the path.' : ''}`,
    ...(e.access === 'anyone' ? {} : { security: [{ session: [] }] }),
    parameters: [...parameters(e.params, 'path'), ...parameters(e.query, 'query')],
    ...(hasBody
      ? {
          requestBody: {
            required: true,
            content: e.rawBody
              ? { 'text/plain': { schema: { type: 'string' } } }
              : { 'application/json': { schema: schemaOf(e.body) } },
          },
        }
      : {}),
    responses: {
      ...(hasAnswer
        ? { 200: { description: 'Done', content: { 'application/json': { schema: schemaOf(e.response, 'output') } } } }
        : e.media
          ? { 200: { description: 'Done', content: { [e.media]: {} } } }
          : { 204: { description: 'Done' } }),
      default: {
        description: 'Refused',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  }
}

/** The whole description as a plain object. */
export function openApi(): Json {
  const paths: Record<string, Json> = {}
  for (const [name, e] of Object.entries(endpoints) as [string, Endpoint][]) {
    if (name === 'calc') continue
    const path = e.path.replace(/:(\w+)/g, '{$1}')
    paths[path] = { ...paths[path], [e.method]: operation(name, e) }
  }
  for (const c of CALCULATORS)
    paths[`/api/calc/${c.name}`] = {
      post: {
        ...operation(c.name, { ...endpoints.calc, params: z.object({}), summary: c.summary, body: c.input }),
        operationId: c.name,
      },
    }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Calm Loop',
      version: '1',
      description:
        'Writes carry the session cookie and the header x-csrf-token from GET /api/session; those open to ' +
        'anyone must come from a page of the same origin. 503 and 429 say in Retry-After when to ask again. ' +
        'Errors are problem details (RFC 9457) with a stable code, and with what would be accepted instead.',
    },
    paths,
    components: {
      schemas: { Problem: schemaOf(Problem, 'output') },
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'calm-loop' } },
    },
  }
}
