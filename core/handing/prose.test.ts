import { fromMarkdown } from 'mdast-util-from-markdown'
import { describe, expect, it } from 'vitest'
import { noteFromMarkdown } from '../formats/note-text'
import { applyChanges, type Change, emptyTree, newTopic } from '../tree'
import { type Choice, choiceSchema } from './choice'
import { cutOut } from './cut'
import { handedOf } from './handed'
import { treeAsProse } from './prose'

/* Markdown in the writer's own way, read again by a reader of CommonMark that isn't ours. */

function written(more: Partial<Choice>): string {
  const tree = emptyTree({ ...newTopic('centre', null, 'a0'), title: 'Move' })
  const note = noteFromMarkdown('It has *one* stop.\n\nAnd a cellar.')
  applyChanges(tree, [
    { op: 'add', topic: 'fitout', parent: 'centre', order: 'a0', with: { title: 'Fit-out', note } },
    { op: 'add', topic: 'lift', parent: 'fitout', order: 'a0', with: { title: 'Lift', note } },
    { op: 'add', topic: 'lamps', parent: 'fitout', order: 'a1', with: { title: 'Lamps' } },
  ] satisfies Change[])
  const choice = choiceSchema.parse({ as: 'markdown', with: ['notes'], headings: 1, ...more })
  const handed = handedOf(
    cutOut(tree, choice),
    choice,
    id => id,
    [],
    () => '',
  )
  return treeAsProse(handed, choice, { description: '', file: () => null })
}
/** What blocks a reader finds, in one another. */
const shape = (markdown: string): string => {
  const inner = (node: { type: string; children?: unknown[] }): string =>
    node.type === 'text' || node.type === 'emphasis'
      ? ''
      : `${node.type}${node.children ? `(${(node.children as { type: string }[]).map(inner).filter(Boolean).join(' ')})` : ''}`
  return inner(fromMarkdown(markdown) as { type: string })
    .replaceAll('()', '')
    .replaceAll('paragraph', 'p')
    .replaceAll('listItem', 'item')
    .replaceAll('blockquote', 'quote')
}

describe('Markdown in the writer’s own way', () => {
  it('has notes as they fit, as paragraphs or as quotes, a note in one quote', () => {
    expect(shape(written({}))).toBe('root(heading heading p p list(item(p quote(p p)) item(p)))')
    expect(shape(written({ notesAs: 'paragraphs' }))).toBe('root(heading heading p p list(item(p p p) item(p)))')
    expect(shape(written({ notesAs: 'quotes' }))).toBe(
      'root(heading heading quote(p p) list(item(p quote(p p)) item(p)))',
    )
  })

  it('has headings down to the level that is chosen and lists below, or lists all through', () => {
    expect(shape(written({ headings: 2 }))).toBe('root(heading heading p p heading p p heading)')
    expect(shape(written({ headings: 0 }))).toBe(
      'root(heading list(item(p quote(p p) list(item(p quote(p p)) item(p)))))',
    )
  })

  it('says what the words are, by whichever way', () => {
    for (const notesAs of ['fitting', 'paragraphs', 'quotes'] as const) {
      expect(written({ notesAs }).match(/It has \*one\* stop\./g)).toHaveLength(2)
      expect(written({ notesAs }).match(/And a cellar\./g)).toHaveLength(2)
    }
  })
})
