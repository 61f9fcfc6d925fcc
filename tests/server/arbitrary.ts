import fc from 'fast-check'
import { z } from 'zod'

/* Values that a Zod schema describes, more or less: by its JSON Schema. Enough to get past the first checks. */

type Schema = {
  readonly type?: string
  readonly const?: unknown
  readonly enum?: readonly unknown[]
  readonly anyOf?: readonly Schema[]
  readonly oneOf?: readonly Schema[]
  readonly properties?: Readonly<Record<string, Schema>>
  readonly required?: readonly string[]
  readonly items?: Schema
  readonly pattern?: string
  readonly format?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly minLength?: number
  readonly additionalProperties?: Schema | boolean
}

const word = fc.oneof(
  fc.string({ maxLength: 30 }),
  fc.string({ unit: 'grapheme', maxLength: 30 }),
  fc.constantFrom(
    '',
    '\u0000',
    '\ud83d',
    'a'.repeat(5000),
    "'; drop table users; --",
    '<img src=x onerror=alert(1)>',
    '../../etc/passwd',
    '__proto__',
    '𝔘𝔫𝔦',
    '\u202e',
    '%00',
    '{{7*7}}',
  ),
)

function text(schema: Schema): fc.Arbitrary<string> {
  if (schema.format === 'email') return fc.emailAddress()
  if (schema.format === 'date') return fc.constantFrom('2027-05-12', '2027-02-29', '9999-12-31', '0000-01-01')
  if (schema.pattern?.includes('{1,40}'))
    return fc.oneof(fc.constantFrom('a', 'abcdefghijklmnop', 'x'.repeat(40)), word)
  return word
}

function fromSchema(schema: Schema): fc.Arbitrary<unknown> {
  if (schema.const !== undefined) return fc.constant(schema.const)
  if (schema.enum) return fc.constantFrom(...schema.enum)
  const choices = schema.anyOf ?? schema.oneOf
  if (choices) return fc.oneof(...choices.map(fromSchema))
  switch (schema.type) {
    case 'string':
      return text(schema)
    case 'integer':
    case 'number':
      return fc.oneof(
        fc.integer({
          min: Math.ceil(Math.max(schema.minimum ?? -5, -1_000_000)),
          max: Math.floor(Math.min(schema.maximum ?? 1000, 1_000_000)),
        }),
        fc.constantFrom(0, -1, 1e308, 0.5),
      )
    case 'boolean':
      return fc.boolean()
    case 'null':
      return fc.constant(null)
    case 'array':
      return fc.array(fromSchema(schema.items ?? {}), { maxLength: 4 })
    case 'object': {
      const known = fc.record(
        Object.fromEntries(Object.entries(schema.properties ?? {}).map(([key, value]) => [key, fromSchema(value)])),
        { requiredKeys: [...(schema.required ?? [])] },
      )
      return typeof schema.additionalProperties === 'object'
        ? fc.dictionary(word, fromSchema(schema.additionalProperties), { maxKeys: 4 })
        : known
    }
    default:
      return fc.jsonValue({ maxDepth: 2 })
  }
}

/** Values as a schema wants them, and, one in three, with something in them that it doesn't. */
export function valuesOf(schema: z.ZodType): fc.Arbitrary<unknown> {
  const good = fromSchema(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Schema)
  const odd = fc.oneof(fc.jsonValue({ maxDepth: 3 }), word, fc.constantFrom(null, [], {}, 1e308, 'x'.repeat(100_000)))
  return fc.oneof(
    { weight: 2, arbitrary: good },
    {
      weight: 1,
      arbitrary: fc.tuple(good, odd, fc.nat()).map(([value, other, at]) => {
        if (typeof value !== 'object' || value === null) return other
        const keys = Object.keys(value)
        return keys.length === 0 ? other : { ...value, [keys[at % keys.length]!]: other }
      }),
    },
  )
}
