import { expect, it } from 'vitest'
import { toJSONSchema } from 'zod'
import type { FieldSpec, SetSpec } from './field-spec'
import { FIELD_ENTRIES } from './fields'
import { SET_ENTRIES } from './sets'
import { BLANK, newTopic } from './topic'
import { entriesOf } from './field-spec'
import { TREE_FIELDS, TREE_SETS } from './tree-fields'

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ')
function kind(schema: FieldSpec['schema']): string {
  const { type, anyOf, enum: values } = toJSONSchema(schema, { unrepresentable: 'any' })
  if (values) return values.map(value => `\`${String(value)}\``).join(', ')
  const types = (anyOf ?? [{ type }]) as { type?: string; enum?: unknown[] }[]
  return types
    .map(one =>
      one.enum ? one.enum.map(value => `\`${String(value)}\``).join(', ') : (one.type ?? 'one of its kinds'),
    )
    .filter(one => one !== 'null')
    .join(' or ')
}
const ways = ({ opml, headings, copied, standing }: FieldSpec): string =>
  [opml ? 'OPML' : '', headings ? 'CSV' : '', copied === false ? 'not in copies' : '', standing ? 'not compared' : '']
    .filter(Boolean)
    .join(', ')
const row = (cells: readonly string[]): string => `| ${cells.map(cell).join(' | ')} |\n`

it('the list in the docs is the tables’', async () => {
  const fields = (entries: readonly (readonly [string, FieldSpec])[]): string =>
    row(['field', 'called', 'value', 'blank', 'what it is', 'also']) +
    row(['---', '---', '---', '---', '---', '---']) +
    entries
      .map(([name, spec]) =>
        row([`\`${name}\``, spec.name, kind(spec.schema), JSON.stringify(spec.blank), spec.about, ways(spec)]),
      )
      .join('')
  const sets = (entries: readonly (readonly [string, SetSpec])[]): string =>
    row(['set', 'called', 'at most', 'what it is']) +
    row(['---', '---', '---', '---']) +
    entries.map(([name, spec]) => row([`\`${name}\``, spec.name, String(spec.most), spec.about])).join('')
  await expect(
    '# Fields and sets\n\nMade from the tables in `core/tree/fields.ts`, `sets.ts` and `tree-fields.ts` by `fields.test.ts`; `npx vitest -u --project core core/tree/fields` writes it anew.\n\n' +
      `## Of a topic\n\n${fields(FIELD_ENTRIES)}\n${sets(SET_ENTRIES)}\n` +
      `## Of the tree\n\n${fields(entriesOf<Record<string, FieldSpec>>(TREE_FIELDS))}\n${sets(entriesOf<Record<string, SetSpec>>(TREE_SETS))}`,
  ).toMatchFileSnapshot('../../docs/formats/fields.md')
})

it('a new topic is blank, and shares its empty sets with every other', () => {
  const topic = newTopic('t', 'p', 'a0')
  expect(topic).toEqual({ ...BLANK, id: 't', parent: 'p', order: 'a0' })
  expect(newTopic('u', null, 'a1').markers).toBe(topic.markers)
})
