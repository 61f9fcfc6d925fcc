import { readFileSync, readdirSync } from 'node:fs'
import { expect, it, vi } from 'vitest'
import { z } from 'zod'
import type * as FieldTable from './fields'
import type * as SetTable from './sets'

/*
 * “A new field is one entry”: one more field and one more set are put into the tables and nowhere else, and everything
 * that handles topics must know them.
 */
vi.mock('./fields', async original => {
  const { FIELDS, FIELD_ENTRIES, ...rest } = await original<typeof FieldTable>()
  const probe = {
    schema: z.enum(['oak', 'ash']).nullable(),
    blank: null,
    name: 'timber',
    about: 'What it’s made of.',
    opml: 'text',
    headings: ['timber'],
    examples: ['oak'],
  } as const
  return { ...rest, FIELDS: { ...FIELDS, probe }, FIELD_ENTRIES: [...FIELD_ENTRIES, ['probe', probe]] }
})
vi.mock('./sets', async original => {
  const { SETS, SET_ENTRIES, SET_NAMES, ...rest } = await original<typeof SetTable>()
  const tools = {
    schema: z.string().max(20),
    most: 2,
    name: 'tools',
    about: 'What it takes.',
    opml: 'words',
    examples: ['saw'],
  } as const
  return {
    ...rest,
    SETS: { ...SETS, tools },
    SET_ENTRIES: [...SET_ENTRIES, ['tools', tools]],
    SET_NAMES: [...SET_NAMES, 'tools'],
  }
})

const tree = await import('./index')
const { readJson, writeJson } = await import('../formats/json')
const { readOpml, writeOpml } = await import('../formats/opml')
const { readCsv, writeCsv } = await import('../formats/csv')
const { differencesOf, fieldInWords } = await import('../compare/differences')
const { editInWords } = await import('../compare/edit-words')

type AnyTopic = Record<string, unknown>
const read = (change: unknown) => tree.changeSchema.parse(change)
const SET = { op: 'set', topic: 't', field: 'probe', value: 'oak' }
const PUT = { op: 'put', topic: 't', set: 'tools', member: 'saw' }

function planted() {
  const made = tree.emptyTree(tree.newTopic('c', null, 'a0'))
  tree.applyChanges(made, [{ op: 'add', topic: 't', parent: 'c', order: 'a0', with: { title: 'Shelves' } }])
  return made
}
const topic = (made: ReturnType<typeof planted>, id = 't'): AnyTopic => made.topics.get(id) as unknown as AnyTopic

it('a change sets it and takes it back, and refuses what it doesn’t accept', () => {
  const made = planted()
  expect(topic(made)).toMatchObject({ probe: null, tools: [] })
  const changes = [read(SET), read(PUT)]
  const patches = tree.applyChanges(made, changes)
  expect(topic(made)).toMatchObject({ probe: 'oak', tools: ['saw'] })
  expect(() => read({ ...SET, value: 'glass' })).toThrow()
  expect(() => tree.applyChanges(made, [read({ ...PUT, member: 'axe' }), read({ ...PUT, member: 'file' })])).toThrow(
    'A topic holds 2 tools at most.',
  )
  expect(editInWords(made, changes)).toBe('timber of “Shelves”, tools of “Shelves”')
  tree.applyChanges(made, tree.invertAll(changes, patches))
  expect(topic(made)).toMatchObject({ probe: null, tools: [] })
})

it('a topic may be born with it', () => {
  const made = planted()
  tree.applyChanges(made, [
    read({
      op: 'add',
      topic: 'n',
      parent: 't',
      order: 'a0',
      with: { title: 'Oak', probe: 'oak', tools: ['saw', 'saw'] },
    }),
  ])
  expect(topic(made, 'n')).toMatchObject({ probe: 'oak', tools: ['saw'] })
})

it('copies, snapshots and every file that has room for it carry it; comparing names it', () => {
  const made = planted()
  const before = tree.fromSnapshot(tree.toSnapshot(made))
  tree.applyChanges(made, [read(SET), read(PUT)])
  const copy = tree.plant([tree.toOutline(made, 't')], 'c', ['a1'], () => 'copy')
  tree.applyChanges(made, copy.changes)
  expect(topic(made, 'copy')).toMatchObject({ probe: 'oak', tools: ['saw'] })
  expect(topic(tree.fromSnapshot(JSON.parse(JSON.stringify(tree.toSnapshot(made)))))).toEqual(topic(made))
  expect(topic(readJson(writeJson(made)).tree)).toEqual(topic(made))
  const opml = readOpml(writeOpml(tree.toOutline(made, 'c')))
  expect(opml.items[0]!.children[0]!.details).toMatchObject({ probe: 'oak', tools: ['saw'] })
  expect(readCsv(writeCsv([tree.toOutline(made, 't')], String))[0]!.details).toMatchObject({ probe: 'oak' })
  const changed = differencesOf(before, made).find(one => one.id === 't')!
  expect(changed.fields.map(fieldInWords)).toEqual(['timber', 'tools'])
})

it('nothing else in the product lists all fields', () => {
  const files = ['core', 'app', 'server'].flatMap(floor =>
    readdirSync(floor, { recursive: true, encoding: 'utf8' })
      .filter(name => /\.(?:ts|vue)$/.test(name) && !/\.test\.ts$/.test(name))
      .map(name => `${floor}/${name}`),
  )
  // Fields that have nothing to do with one another stand together only where all are listed.
  const listing = files.filter(file => {
    const text = readFileSync(file, 'utf8')
    return ['priority', 'sketch', 'numbering', 'folded', 'tray'].every(name =>
      new RegExp(`(?:^|[{,\\[] ?)\\s*'?${name}'?(?::|,|$)`, 'm').test(text),
    )
  })
  expect(listing).toEqual(['core/tree/fields.ts'])
})
