import { describe, expect, it } from 'vitest'
import { copyTree, WHOLE } from '../capture/copy'
import { readJson, writeJson } from '../formats/json'
import {
  addAt,
  addressesIn,
  applyChanges,
  BLANK,
  type Change,
  changeSchema,
  emptyTree,
  inLetters,
  type Initial,
  inRoman,
  invertAll,
  isSafeAddress,
  linkInWords,
  mailAddress,
  outlinePath,
  plantAt,
  readAddress,
  readSketch,
  schemeNumbers,
  targetOf,
  toOutline,
  topicOf,
  toSnapshot,
  type Tree,
  writeSketch,
} from '.'

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}
const HASH = 'ab'.repeat(32)
const tie = { id: 't1', to: 'b', label: 'uses', ends: 'to' as const, bend: { x: 3, y: -4 }, hue: '2' }
const file = { id: 'f1', file: HASH, name: 'Quote of the joiner.pdf', type: 'application/pdf', size: 12, preview: null }
const check = { id: 'k1', order: 'a0', text: 'Measure', done: false, due: '2027-03-01', priority: 2 }

describe('what hangs on a topic', () => {
  const changes: Change[] = [
    { op: 'put', topic: 'a', set: 'ties', member: tie },
    { op: 'put', topic: 'a', set: 'files', member: file },
    { op: 'put', topic: 'a', set: 'checks', member: check },
    { op: 'set', topic: 'a', field: 'place', value: { name: 'Tannery', lat: 48.2, lon: 16.37 } },
    { op: 'set', topic: 'a', field: 'annex', value: true },
    { op: 'set', topic: 'b', field: 'reference', value: { tree: null, topic: 'a' } },
    { op: 'set', topic: 'c', field: 'numbering', value: { scheme: 'letters', levels: 2 } },
    { op: 'put', topic: 'a', set: 'checks', member: { ...check, done: true } },
    { op: 'take', topic: 'a', set: 'files', member: 'f1' },
  ]
  it('comes by changes, goes by their inverses, and travels in our JSON', () => {
    const tree = grow(['a', 'c'], ['b', 'c'])
    const before = toSnapshot(tree)
    for (const change of changes) expect(changeSchema.safeParse(change).success, JSON.stringify(change)).toBe(true)
    const patches = applyChanges(tree, changes)
    const topic = topicOf(tree, 'a')
    expect(topic).toMatchObject({
      ties: [tie],
      files: [],
      checks: [{ ...check, done: true }],
      annex: true,
      place: { name: 'Tannery' },
    })
    expect(toSnapshot(readJson(writeJson(tree)).tree)).toEqual(toSnapshot(tree))
    applyChanges(tree, invertAll(changes, patches))
    expect(toSnapshot(tree)).toEqual(before)
  })
  it.each<[string, unknown]>([
    [
      'a file name that leads out of its folder',
      { op: 'put', topic: 'a', set: 'files', member: { ...file, name: '../../etc/passwd' } },
    ],
    [
      'a file name with a backslash',
      { op: 'put', topic: 'a', set: 'files', member: { ...file, name: '..\\boot.ini' } },
    ],
    ['a file name of dots', { op: 'put', topic: 'a', set: 'files', member: { ...file, name: '..' } }],
    [
      'a file name that turns its end round',
      { op: 'put', topic: 'a', set: 'files', member: { ...file, name: 'quote\u202Efdp.exe' } },
    ],
    ['a place off the Earth', { op: 'set', topic: 'a', field: 'place', value: { name: 'x', lat: 91, lon: 0 } }],
    ['half a position', { op: 'set', topic: 'a', field: 'place', value: { name: 'x', lat: 9, lon: null } }],
    ['a place without anything', { op: 'set', topic: 'a', field: 'place', value: { name: ' ', lat: null, lon: null } }],
    [
      'a sketch with a script',
      {
        op: 'set',
        topic: 'a',
        field: 'sketch',
        value: '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>alert(1)</script></svg>',
      },
    ],
    [
      'a link with a bad scheme',
      { op: 'put', topic: 'a', set: 'links', member: { id: 'l', url: 'javascript:alert(1)', title: '' } },
    ],
  ])('refuses %s', (_, change) => expect(changeSchema.safeParse(change).success).toBe(false))
  it('cross-links and references inside a copied branch lead to the copies, others where they led', () => {
    const tree = grow(
      ['a', 'c'],
      [
        'a1',
        'a',
        {
          ties: [
            { ...tie, to: 'a2' },
            { ...tie, id: 't2', to: 'z' },
          ],
        },
      ],
      ['a2', 'a'],
      ['a3', 'a', { reference: { tree: null, topic: 'a2' } }],
      ['z', 'c'],
    )
    let made = 0
    applyChanges(tree, plantAt(tree, [toOutline(tree, 'a')], { parent: 'c', index: 9 }, () => `n${made++}`).changes)
    expect(topicOf(tree, 'n1').ties.map(one => one.to)).toEqual(['n2', 'z'])
    expect(topicOf(tree, 'n3').reference).toEqual({ tree: null, topic: 'n2' })
    expect(topicOf(copyTree(tree, WHOLE), 'a1').ties.map(one => one.to)).toEqual(['a2', 'z'])
  })
})

describe('references', () => {
  it('that would lead round in a circle are refused, and nothing changes', () => {
    const tree = grow(
      ['a', 'c'],
      ['b', 'c', { reference: { tree: null, topic: 'a' } }],
      ['d', 'c', { reference: { tree: null, topic: 'b' } }],
    )
    for (const [topic, to] of [
      ['a', 'a'],
      ['a', 'b'],
      ['a', 'd'],
      ['b', 'd'],
    ] as const) {
      expect(() =>
        applyChanges(tree, [{ op: 'set', topic, field: 'reference', value: { tree: null, topic: to } }]),
      ).toThrow(/circle/)
    }
    expect(topicOf(tree, 'a').reference).toBeNull()
    applyChanges(tree, [{ op: 'set', topic: 'a', field: 'reference', value: { tree: 'elsewhere', topic: 'a' } }])
    expect(topicOf(tree, 'a').reference).toEqual({ tree: 'elsewhere', topic: 'a' })
  })
})

describe('numbers', () => {
  // From memory; the subtractive forms as they are usually written (common practice).
  it.each([
    [1, 'I'],
    [4, 'IV'],
    [9, 'IX'],
    [14, 'XIV'],
    [40, 'XL'],
    [90, 'XC'],
    [400, 'CD'],
    [1994, 'MCMXCIV'],
    [2027, 'MMXXVII'],
    [3999, 'MMMCMXCIX'],
    [4000, '4000'],
  ])('%i is %s', (value, text) => expect(inRoman(value)).toBe(text))
  it('letters go on after Z as the columns of a table do', () => {
    expect([1, 26, 27, 52, 53, 702, 703].map(inLetters)).toEqual(['A', 'Z', 'AA', 'AZ', 'BA', 'ZZ', 'AAA'])
  })
  it('count places, to a level, and start anew where a branch has its own', () => {
    const tree = grow(['a', 'c'], ['b', 'c'], ['b1', 'b'], ['b2', 'b'], ['b2x', 'b2'], ['b2y', 'b2'], ['deep', 'b2y'])
    const numbers = (): Record<string, string> => Object.fromEntries(schemeNumbers(tree))
    expect(numbers()).toEqual({})
    applyChanges(tree, [{ op: 'set', topic: 'c', field: 'numbering', value: { scheme: 'figures', levels: 3 } }])
    expect(numbers()).toEqual({ a: '1', b: '2', b1: '2.1', b2: '2.2', b2x: '2.2.1', b2y: '2.2.2' })
    applyChanges(tree, [{ op: 'set', topic: 'c', field: 'numbering', value: { scheme: 'letters', levels: 4 } }])
    expect(numbers()).toMatchObject({ b: 'B', b2: 'B.2', b2y: 'B.2.b', deep: 'B.2.b.i' })
    applyChanges(tree, [{ op: 'set', topic: 'b2', field: 'numbering', value: { scheme: 'roman', levels: 1 } }])
    expect(numbers()).toMatchObject({ b2: 'B.2', b2x: 'I', b2y: 'II' })
    expect(numbers().deep).toBeUndefined()
  })
  it('follow a topic that moves', () => {
    const tree = grow(['a', 'c'], ['b', 'c'])
    applyChanges(tree, [
      { op: 'set', topic: 'c', field: 'numbering', value: { scheme: 'figures', levels: 9 } },
      { op: 'place', topic: 'b', parent: 'a', order: 'a0' },
    ])
    expect(schemeNumbers(tree).get('b')).toBe('1.1')
  })
})

describe('links', () => {
  it.each([
    ['tannery.example/plans', 'https://tannery.example/plans'],
    ['www.tannery.example', 'https://www.tannery.example'],
    ['ines@porch.example', 'mailto:ines@porch.example'],
    ['http://a.example/?q=1', 'http://a.example/?q=1'],
    ['https://sun.example/trees/T1?topic=x2', 'tree:T1/x2'],
    ['https://sun.example/trees/T1', 'tree:T1'],
    ['https://other.example/trees/T1', 'https://other.example/trees/T1'],
    ['localhost.example:8080/x', 'https://localhost.example:8080/x'],
    ['geo:48.2,16.37', 'geo:48.2,16.37'],
    ['javascript:alert(1)', null],
    ['JaVaScRiPt:alert(1)', null],
    ['data:text/html,x', null],
    ['vbscript:x', null],
    ['file:///etc/passwd', null],
    ['blob:https://a.example/x', null],
    ['oak shelves', null],
    ['Order', null],
    ['', null],
  ])('%s is read as %s', (said, url) => expect(readAddress(said, 'https://sun.example')).toBe(url))
  it('lead to web, mail with a subject, files, topics, trees', () => {
    // RFC 6068, section 6.1: the subject's space is %20.
    expect(targetOf('mailto:infobot@example.com?subject=current-issue')).toEqual({
      kind: 'mail',
      to: 'infobot@example.com',
      subject: 'current-issue',
    })
    expect(mailAddress('chris@example.com', 'The mailing list')).toBe(
      'mailto:chris@example.com?subject=The%20mailing%20list',
    )
    expect(targetOf(mailAddress('ines@porch.example', 'Keys & locks?'))).toEqual({
      kind: 'mail',
      to: 'ines@porch.example',
      subject: 'Keys & locks?',
    })
    expect(targetOf('topic:abc')).toEqual({ kind: 'topic', topic: 'abc' })
    expect(targetOf('tree:T1/x2')).toEqual({ kind: 'tree', tree: 'T1', topic: 'x2' })
    expect(targetOf(`attachment:${HASH}`)).toEqual({ kind: 'file', file: HASH, passage: null })
    expect(targetOf(`attachment:${HASH}#p12`)).toEqual({ kind: 'file', file: HASH, passage: 12 })
    for (const bad of [
      'topic:../x',
      'tree:a/b/c',
      'attachment:../../x',
      `attachment:${HASH}#p`,
      `attachment:${HASH}#p1234567`,
      ' java\nscript:alert(1)',
      'javascript:1',
    ])
      expect(targetOf(bad)).toBeNull()
    expect(isSafeAddress('\u0001javascript:alert(1)')).toBe(false)
  })
  it('have names, and are found in text', () => {
    expect(linkInWords({ url: 'https://tannery.example/plans/?v=2', title: '' })).toBe('tannery.example/plans')
    expect(linkInWords({ url: 'mailto:a@b.example?subject=Keys', title: '' })).toBe('a@b.example: Keys')
    expect(addressesIn('See https://a.example/x. Or (www.b.example), not javascript:alert(1)')).toEqual([
      'https://a.example/x',
      'https://www.b.example',
    ])
  })
})

describe('sketches', () => {
  it('are written and read back', () => {
    const sketch = {
      width: 600,
      height: 400,
      strokes: [
        {
          hue: '#16292d',
          d: outlinePath([
            [1, 1],
            [9.25, 1],
            [9, 9],
          ]),
        },
      ],
    }
    expect(readSketch(writeSketch(sketch))).toEqual(sketch)
    expect(sketch.strokes[0]!.d).toBe('M5.1 1 Q9.3 1 9.1 5 Q9 9 5 5 Z')
  })
  it.each([
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path fill="#000000" d="M0 0" onload="x()"/></svg>',
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><image href="http://inner/"/></svg>',
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path fill="url(#x)" d="M0 0"/></svg>',
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><style>*{}</style></svg>',
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"></svg><script/></svg>',
    '<svg onload="x()" xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"></svg>',
    '<!DOCTYPE svg><svg/>',
    '',
  ])('hold nothing but filled paths: %s is none', svg => expect(readSketch(svg)).toBeNull())
})
