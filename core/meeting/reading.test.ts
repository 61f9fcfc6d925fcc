import { describe, expect, it } from 'vitest'
import { applyChanges, BLANK, type Change, emptyTree } from '../tree'
import { sayItem } from './agenda'
import { type HasRead, type OpenedThings, readingOf, sectionDigest } from './reading'

/* Who has read beforehand, against the sentence "who has opened each section and document since it was filled". */

const OFFER = 'a'.repeat(64)
const put = (topic: string, set: 'meeting' | 'files', member: object): Change =>
  ({ op: 'put', topic, set, member }) as unknown as Change
const person = (user: string, needed = true): object => ({
  id: `p-${user}`,
  kind: 'person',
  user,
  mail: null,
  name: '',
  needed,
  role: null,
})

/** A meeting with an item that Oskar owns, filled in, to which three of four were invited. */
function meeting(more: readonly Change[] = []) {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, [
    { op: 'add', topic: 'm', parent: 'c', order: 'a0', with: { title: 'Coordination' } },
    { op: 'add', topic: 'i', parent: 'm', order: 'a0', with: { title: 'Two offers', people: ['oskar'] } },
    { op: 'add', topic: 'n', parent: 'i', order: 'a0', with: { title: 'Hafner asks for two days' } },
    put('m', 'meeting', { id: 'stage', kind: 'stage', stage: 'planned' }),
    ...['ines', 'oskar', 'rana', 'lev'].map(user => put('m', 'meeting', person(user, user !== 'lev'))),
    put('m', 'meeting', {
      id: 'invitation',
      kind: 'invitation',
      uid: 'u',
      sequence: 0,
      at: 1,
      by: 'ines',
      to: ['ines', 'oskar', 'rana', 'lev'].map(user => ({ id: `p-${user}`, mail: `${user}@porch.example` })),
      digest: 'x',
    }),
    sayItem('i', { id: 'intent', kind: 'intent', intent: 'decide' }),
    sayItem('i', { id: 'ready', kind: 'ready', at: 1, by: 'oskar' }),
    ...more,
  ])
  return tree
}
const opened = (sections: Record<string, string> = {}, files: Record<string, string[]> = {}): OpenedThings => ({
  sections: new Map([['i', new Map(Object.entries(sections))]]),
  files: new Map(Object.entries(files).map(([file, users]) => [file, new Set(users)])),
})
const file = put('n', 'files', {
  id: 'f',
  file: OFFER,
  name: 'offer.pdf',
  type: 'application/pdf',
  size: 3,
  preview: null,
})

describe('an item of a planned meeting', () => {
  it('is read by those who are needed and invited, not by who owns it', () => {
    expect(readingOf(meeting(), 'm', opened())).toEqual({ i: { ines: 'not', rana: 'not' } })
  })
  it('has no readers before anybody is invited, and nothing to read before it’s filled in', () => {
    expect(
      readingOf(meeting([{ op: 'take', topic: 'm', set: 'meeting', member: 'invitation' }]), 'm', opened()),
    ).toEqual({})
    expect(readingOf(meeting([{ op: 'take', topic: 'i', set: 'item', member: 'ready' }]), 'm', opened())).toEqual({})
  })
  it('is read as it stands; in other words it was read before it changed', () => {
    const tree = meeting()
    const now = opened({ ines: sectionDigest(tree, 'i') })
    expect(readingOf(tree, 'm', now)['i']).toEqual({ ines: 'read', rana: 'not' })
    applyChanges(tree, [{ op: 'set', topic: 'n', field: 'title', value: 'Hafner asks for three days' }])
    expect(readingOf(tree, 'm', now)['i']).toEqual({ ines: 'before', rana: 'not' })
    applyChanges(tree, [{ op: 'set', topic: 'n', field: 'title', value: 'Hafner asks for two days' }])
    expect(readingOf(tree, 'm', now)['i']).toEqual({ ines: 'read', rana: 'not' })
  })
  it.each<[string, Change]>([
    ['its minutes', sayItem('i', { id: 'minutes', kind: 'minutes', minutes: 20 })],
    ['a marker', { op: 'set', topic: 'n', field: 'done', value: 1 } as Change],
    ['where it hangs', { op: 'set', topic: 'i', field: 'folded', value: true } as Change],
  ])('isn’t unread again by %s', (_, change) => {
    const tree = meeting()
    const before = sectionDigest(tree, 'i')
    applyChanges(tree, [change])
    expect(sectionDigest(tree, 'i')).toBe(before)
  })
  it.each<[string, Change]>([
    ['a topic more', { op: 'add', topic: 'x', parent: 'i', order: 'a1', with: { title: 'And a lorry' } }],
    ['a topic less', { op: 'remove', topic: 'n' }],
    ['a document', file],
  ])('has other words with %s', (_, change) => {
    const tree = meeting()
    const before = sectionDigest(tree, 'i')
    applyChanges(tree, [change])
    expect(sectionDigest(tree, 'i')).not.toBe(before)
  })
  it.each<[string, Record<string, string[]>, HasRead]>([
    ['nobody opened', {}, 'not'],
    ['another opened', { [OFFER]: ['rana'] }, 'not'],
    ['they opened', { [OFFER]: ['ines'] }, 'read'],
  ])('with a document that %s', (_, files, read) => {
    const tree = meeting([file])
    expect(readingOf(tree, 'm', opened({ ines: sectionDigest(tree, 'i') }, files))['i']!['ines']).toBe(read)
  })
  it('that has documents alone is read when they are opened', () => {
    const tree = meeting([file, { op: 'take', topic: 'i', set: 'item', member: 'ready' }])
    expect(readingOf(tree, 'm', opened({}, { [OFFER]: ['rana'] }))['i']).toEqual({ ines: 'not', rana: 'read' })
  })
})
