import { z } from 'zod'
import { none, type Operation } from './operation'
import { OPERATIONS } from './operations'

/** The OpenAPI 3.1 description of all operations. */
export function openApi(): object {
  const paths: Record<string, Record<string, unknown>> = {}
  for (const [id, op] of Object.entries<Operation>(OPERATIONS)) {
    const schema = (part: z.ZodType): Record<string, unknown> =>
      z.toJSONSchema(part, { unrepresentable: 'any', io: 'input' })
    const parameters = [
      ['path', op.params],
      ['query', op.query],
    ].flatMap(([where, part]) => {
      const { properties = {}, required = [] } = schema(part as z.ZodType) as {
        properties?: Record<string, object>
        required?: string[]
      }
      return Object.entries(properties).map(([name, value]) => ({
        name,
        in: where,
        required: required.includes(name),
        schema: value,
      }))
    })
    const hasBody = op.method !== 'GET' && op.body !== none
    paths[op.path] = {
      ...paths[op.path],
      [op.method.toLowerCase()]: {
        operationId: id,
        summary: op.summary,
        description:
          op.access === 'nobody'
            ? 'Needs no sign-in.'
            : op.access === 'person'
              ? 'Needs a sign-in.'
              : `Needs the role ${op.access} or more on the tree.`,
        ...(parameters.length > 0 ? { parameters } : {}),
        ...(hasBody
          ? { requestBody: { required: true, content: { 'application/json': { schema: schema(op.body) } } } }
          : {}),
        responses: {
          200: { description: 'Done.' },
          default: {
            description: 'An error.',
            content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
          },
        },
      },
    }
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Sun Porch',
      version: '1',
      description:
        'Topic trees that a team keeps together. Sign in to get a session cookie. Live changes: docs/api/live.md.',
    },
    paths,
    components: {
      schemas: {
        Error: z.toJSONSchema(
          z.object({ error: z.object({ code: z.string(), message: z.string(), details: z.unknown().optional() }) }),
        ),
      },
    },
  }
}
