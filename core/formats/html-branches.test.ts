import { expect, it } from 'vitest'
import { applyChanges, BLANK, emptyTree, type Change } from '../tree'
import { readHtmlList } from '../capture/html-list'
import { kindInWords, writeHtmlBranches } from './html-branches'

const AT = Date.UTC(2027, 0, 11, 9)

it('branches keep their colours in other programs, and their markers become words', () => {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move' })
  const add = (topic: string, parent: string, title: string, more: object = {}): Change => ({
    op: 'add',
    topic,
    parent,
    order: 'a1',
    with: { title, ...more },
  })
  applyChanges(tree, [
    add('fit', 'centre', 'Fit-out'),
    add('lift', 'fit', 'Lift <b>\n& doors', { markers: ['risk', 'must'] }),
    add('who', 'lift', 'Who pays?', { entry: { kind: 'question', by: null, name: 'Rana', at: AT } }),
  ])
  const html = writeHtmlBranches(tree, ['fit'], {
    colourOf: id => (id === 'fit' ? '#17616b' : '#a93f27'),
    wordsOf: topic => [...topic.markers, ...kindInWords(topic)],
  })
  expect(html).toBe(
    '<ul><li><span style="color:#17616b;font-weight:600">Fit-out</span><ul>' +
      '<li><span style="color:#a93f27">Lift &lt;b&gt;<br>&amp; doors</span> <em>(risk, must)</em><ul>' +
      '<li><span style="color:#a93f27">Who pays?</span> <em>(open question)</em></li></ul></li></ul></li></ul>',
  )
  // Read in again the levels are the same.
  const [back] = readHtmlList(html) ?? []
  expect(back).toMatchObject({ title: 'Fit-out', children: [{ children: [{ title: 'Who pays? (open question)' }] }] })
  expect(writeHtmlBranches(tree, [], { colourOf: () => '', wordsOf: () => [] })).toBe('')
})

it('what isn’t decided is told from what is', () => {
  const entry = (kind: 'question' | 'decision' | 'idea' | 'parked' | 'action') => ({ kind, by: null, name: '', at: AT })
  expect(kindInWords({ entry: entry('question'), done: 100 })).toEqual(['question, answered'])
  expect(kindInWords({ entry: entry('question'), done: null })).toEqual(['open question'])
  expect(kindInWords({ entry: entry('decision'), done: null })).toEqual(['decision'])
  expect(kindInWords({ entry: entry('parked'), done: null })).toEqual(['parked'])
  expect(kindInWords({ entry: null, done: null })).toEqual([])
})
