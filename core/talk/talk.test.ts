import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { maySay } from '../access/may-say'
import type { Principal } from '../access/principal'
import { ROLES } from '../access/roles'
import { ALL } from './everybody'
import { type Body, bodyOf, bodySchema, isEmpty, mentionsIn, MOST_SAID, picturesIn, textOf } from './body'
import { BENCH, MOST_IN_THREAD, type Saying, sayingSchema, type Told } from './saying'
import { hear, hearAgain, hearSign, signOf, type Thread, topicSign } from './thread'

const body = (content: unknown): unknown => ({ type: 'doc', content })
const accepts = (content: unknown): boolean => bodySchema.safeParse(body(content)).success
const hash = 'ab'.repeat(32)

describe('a body', () => {
  const said: Body = {
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [
          { type: 'person', attrs: { id: 'rana', label: 'Rana Tahiri' } },
          { type: 'text', text: ' and ' },
          { type: 'person', attrs: { id: ALL, label: 'all' } },
          { type: 'text', text: ': see ', marks: [{ type: 'bold' }] },
          { type: 'topic', attrs: { id: 'lift', label: 'Lift' } },
        ],
      },
      {
        type: 'bulletList',
        content: [{ type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'twice' }] }] }],
      },
      { type: 'image', attrs: { src: hash, alt: 'The shaft' } },
    ],
  }
  it('has words, mentions and pictures', () => {
    expect(bodySchema.parse(said)).toEqual(said)
    expect(textOf(said)).toBe('@Rana Tahiri and @all: see #Lift\ntwice\nThe shaft')
    expect(mentionsIn(said)).toEqual({ people: ['rana', ALL], topics: ['lift'] })
    expect(picturesIn(said)).toEqual([hash])
  })
  it('names those who were in a group when it was said, by accounts', () => {
    const named = (people: readonly string[], times = 1): unknown => [
      {
        type: 'paragraph',
        content: Array.from({ length: times }, () => ({
          type: 'person',
          attrs: { id: 'board', label: 'Board', people },
        })),
      },
    ]
    const of = bodySchema.parse(body(named(['ines', 'rana'])))
    expect(mentionsIn(of).people).toEqual(['ines', 'rana'])
    expect(textOf(of)).toBe('@Board')
    // A group nobody of which is in the tree names nobody: not whoever has its id for a name.
    expect(mentionsIn(bodySchema.parse(body(named([])))).people).toEqual([])
    const many = Array.from({ length: 200 }, (_, i) => `p${i}`)
    expect(accepts(named(many, 5))).toBe(true)
    expect(accepts(named(many, 6))).toBe(false)
    expect(accepts(named([...many, 'one']))).toBe(false)
    expect(accepts(named(['<b>']))).toBe(false)
  })
  it('comes from plain lines and is read back the same', () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[^\n]{0,20}$/)), lines => {
        const text = lines.join('\n').toWellFormed()
        fc.pre(text.trim() !== '')
        expect(textOf(bodySchema.parse(bodyOf(text)))).toBe(text)
      }),
    )
  })
  it('takes nothing that isn’t of its kinds: scripts, frames, styles, unsafe addresses, pictures from elsewhere', () => {
    const paragraph = (piece: unknown): unknown[] => [{ type: 'paragraph', content: [piece] }]
    expect(accepts(paragraph({ type: 'text', text: 'fine' }))).toBe(true)
    for (const piece of [
      { type: 'html', html: '<script>alert(1)</script>' },
      { type: 'text', text: 'x', onclick: 'alert(1)' },
      { type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }] },
      { type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: ' java\nscript:alert(1)' } }] },
      { type: 'text', text: 'x', marks: [{ type: 'textStyle', attrs: { color: 'red' } }] },
      { type: 'text', text: '\ud800' },
      { type: 'person', attrs: { id: '../x', label: 'x' } },
    ])
      expect(accepts(paragraph(piece)), JSON.stringify(piece)).toBe(false)
    expect(accepts([{ type: 'iframe', attrs: { src: 'https://example.org' } }])).toBe(false)
    expect(accepts([{ type: 'image', attrs: { src: 'https://example.org/x.png', alt: '' } }])).toBe(false)
  })
  it('says something, and not without end', () => {
    expect(accepts([])).toBe(false)
    expect(accepts([{ type: 'paragraph' }])).toBe(false)
    expect(accepts([{ type: 'paragraph', content: [{ type: 'text', text: ' \n ' }] }])).toBe(false)
    expect(isEmpty(bodyOf(' '))).toBe(true)
    expect(bodySchema.safeParse(bodyOf('x'.repeat(MOST_SAID))).success).toBe(true)
    expect(bodySchema.safeParse(bodyOf(`${'x'.repeat(MOST_SAID)}\ny`)).success).toBe(false)
    expect(bodySchema.safeParse(bodyOf('x\n'.repeat(2500))).success).toBe(false)
    let deep: unknown = { type: 'paragraph', content: [{ type: 'text', text: 'x' }] }
    for (let i = 0; i < 30; i++) deep = { type: 'blockquote', content: [deep] }
    expect(accepts([deep])).toBe(false)
  })
})

const told = (number: number, by: string, saying: Saying): Told => ({
  thread: 'a',
  ...saying,
  number,
  by,
  at: new Date(Date.UTC(2027, 3, 1) + number * 1000).toISOString(),
})
const begin = (id: string, text = id): Saying => ({
  id: `s-${id}`,
  op: 'say',
  comment: id,
  thread: id,
  place: { on: 'topic', topic: 'lift' },
  body: bodyOf(text),
})
const reply = (id: string, thread: string): Saying => ({
  id: `s-${id}`,
  op: 'say',
  comment: id,
  thread,
  body: bodyOf(id),
})

describe('a thread', () => {
  const after = (...sayings: readonly (readonly [string, Saying])[]): Thread | undefined =>
    sayings.reduce<Thread | undefined>((thread, [by, saying], i) => hear(thread, told(i + 1, by, saying)), undefined)

  it('is settled, and opened again by an answer', () => {
    const settle: Saying = { id: 'x', op: 'settle', thread: 'a', settled: true }
    expect(after(['ines', begin('a')], ['rana', settle])?.settled?.by).toBe('rana')
    expect(after(['ines', begin('a')], ['rana', settle], ['ines', reply('b', 'a')])?.settled).toBeNull()
    expect(after(['ines', begin('a')], ['rana', settle], ['rana', { ...settle, settled: false }])?.settled).toBeNull()
  })
  it('keeps the place of what was withdrawn, without its words', () => {
    const thread = after(
      ['ines', begin('a')],
      ['rana', reply('b', 'a')],
      ['ines', { id: 'x', op: 'withdraw', comment: 'a' }],
    )!
    expect(thread.comments.map(({ body }) => body === null)).toEqual([true, false])
    expect(signOf(thread)).toMatchObject({ count: 1, by: ['rana'] })
    // What comes late, from before it was withdrawn, doesn't bring it back.
    expect(
      hear(thread, told(9, 'ines', { id: 'y', op: 'reword', comment: 'a', body: bodyOf('again') }))?.comments[0]?.body,
    ).toBeNull()
  })
  it('is told of twice and is the same', () => {
    const thread = after(['ines', begin('a')], ['rana', reply('b', 'a')])!
    expect(hear(thread, told(2, 'rana', reply('b', 'a')))).toBe(thread)
  })
  it('is in the order of its numbers, whatever order they are heard in', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 2, max: 40 }), { maxLength: 12 }), numbers => {
        let thread = hear(undefined, told(1, 'ines', begin('a')))
        for (const number of numbers) thread = hear(thread, told(number, 'rana', reply(`r${number}`, 'a')))
        const got = thread!.comments.map(comment => comment.number)
        expect(got).toEqual([...got].sort((a, b) => a - b))
      }),
    )
  })
  it('has a sign that hears what its words hear, as far as signs can', () => {
    const step = fc.record({
      by: fc.constantFrom('ines', 'rana', 'carl'),
      what: fc.constantFrom('answer', 'settle', 'open', 'became'),
    })
    fc.assert(
      fc.property(fc.array(step, { maxLength: 15 }), steps => {
        let thread = hear(undefined, told(1, 'ines', begin('a')))!
        let sign = signOf(thread)
        for (const [i, { by, what }] of steps.entries()) {
          const saying: Saying =
            what === 'answer'
              ? reply(`r${i}`, 'a')
              : what === 'became'
                ? { id: `b${i}`, op: 'became', comment: 'a', became: { as: 'task', topic: 't' } }
                : { id: `s${i}`, op: 'settle', thread: 'a', settled: what === 'settle' }
          thread = hear(thread, told(i + 2, by, saying))!
          sign = hearSign(sign, told(i + 2, by, saying))!
          expect(sign).toEqual(signOf(thread))
        }
      }),
    )
    for (const op of ['withdraw', 'reword'] as const)
      expect(
        hearSign(
          signOf(after(['ines', begin('a')])!),
          told(2, 'ines', { id: 'x', op, comment: 'a', body: bodyOf('y') } as Saying),
        ),
      ).toBeNull()
  })
  it('heard again over words that have it already is the same, whatever of it they have', () => {
    const steps = fc.array(fc.constantFrom('answer', 'settle', 'open'), { maxLength: 10 })
    fc.assert(
      fc.property(steps, fc.nat(10), (whats, upTo) => {
        const all = whats.map((what, i) =>
          told(
            i + 2,
            'rana',
            what === 'answer'
              ? reply(`r${i}`, 'a')
              : { id: `s${i}`, op: 'settle', thread: 'a', settled: what === 'settle' },
          ),
        )
        const first = hear(undefined, told(1, 'ines', begin('a')))!
        const whole = all.reduce((thread, one) => hear(thread, one)!, first)
        const part = all.slice(0, upTo).reduce((thread, one) => hear(thread, one)!, first)
        expect(all.reduce(hearAgain, part).settled !== null).toBe(whole.settled !== null)
        expect(all.reduce(hearAgain, part).comments).toEqual(whole.comments)
      }),
    )
  })
  it('counts on its topic as long as something in it can be read', () => {
    const open = signOf(after(['ines', begin('a')], ['rana', reply('b', 'a')])!)
    const settled = { ...signOf(after(['rana', begin('c')])!), settled: true }
    const gone = signOf(after(['ines', begin('d')], ['ines', { id: 'x', op: 'withdraw', comment: 'd' }])!)
    expect(topicSign([open, settled, gone])).toMatchObject({ threads: 2, open: 1, comments: 3 })
    expect([...topicSign([open, settled])!.by].sort()).toEqual(['ines', 'rana'])
    expect(topicSign([gone])).toBeNull()
  })
})

describe('who may say what', () => {
  const ines: Principal = { kind: 'account', id: 'ines' }
  const comment = { by: 'ines', body: bodyOf('x') }
  const there = { thread: { size: 1 }, comment: null }
  const nothing = { thread: null, comment: null }
  const of = (by: string) => ({ thread: { size: 1 }, comment: { ...comment, by } })
  const reword: Saying = { id: 'x', op: 'reword', comment: 'a', body: bodyOf('y') }
  const withdraw: Saying = { id: 'x', op: 'withdraw', comment: 'a' }
  const became: Saying = { id: 'x', op: 'became', comment: 'a', became: { as: 'task', topic: 't' } }

  it('a viewer nothing, a commenter what is a commenter’s, and no guest anything', () => {
    for (const saying of [begin('a'), reply('b', 'a'), reword, withdraw, became]) {
      expect(maySay(ines, 'viewer', saying, of('ines'))).toBe('role')
      expect(maySay(ines, null, saying, of('ines'))).toBe('role')
      expect(maySay({ kind: 'guest', id: 'ines', meeting: 'm' }, 'owner', saying, of('ines'))).toBe('role')
    }
    for (const role of ROLES.slice(1)) {
      expect(maySay(ines, role, begin('a'), nothing)).toBeNull()
      expect(maySay(ines, role, reply('b', 'a'), there)).toBeNull()
      expect(maySay(ines, role, reword, of('ines'))).toBeNull()
      expect(maySay(ines, role, reword, of('rana'))).toBe('not-yours')
      expect(maySay(ines, role, withdraw, of('ines'))).toBeNull()
      expect(maySay(ines, role, withdraw, of('rana'))).toBe(role === 'owner' ? null : 'not-yours')
      expect(maySay(ines, role, became, of('rana'))).toBe(role === 'commenter' ? 'role' : null)
    }
  })
  it('not into nowhere, nor where a thread isn’t, nor twice under one id, nor without end', () => {
    const lost = { ...begin('a'), place: undefined } as Saying
    expect(maySay(ines, 'owner', lost, nothing)).toBe('no-place')
    expect(maySay(ines, 'owner', reply('b', 'a'), nothing)).toBe('no-thread')
    expect(maySay(ines, 'owner', { ...begin('b'), thread: 'a' } as Saying, there)).toBe('place')
    expect(maySay(ines, 'owner', begin('a'), of('rana'))).toBe('taken')
    expect(maySay(ines, 'owner', reply('b', 'a'), { thread: { size: MOST_IN_THREAD }, comment: null })).toBe('full')
    expect(maySay(ines, 'owner', reword, nothing)).toBe('no-comment')
    expect(maySay(ines, 'owner', reword, { ...there, comment: { by: 'ines', body: null } })).toBe('withdrawn')
    expect(maySay(ines, 'owner', { id: 'x', op: 'settle', thread: BENCH, settled: true }, there)).toBe('bench')
    expect(maySay(ines, 'owner', reply('b', BENCH), nothing)).toBeNull()
  })
  it('nothing that isn’t shaped as a saying', () => {
    expect(sayingSchema.safeParse(begin('a')).success).toBe(true)
    expect(sayingSchema.safeParse({ ...begin('a'), at: '2020-01-01' }).success).toBe(false)
    expect(sayingSchema.safeParse({ ...begin('a'), op: 'shout' }).success).toBe(false)
    expect(sayingSchema.safeParse({ ...begin('a'), place: { on: 'moon' } }).success).toBe(false)
    const on = (place: object): boolean => sayingSchema.safeParse({ ...begin('a'), place }).success
    const figure = { on: 'figure', topic: 'lift', measure: 'cost' }
    expect(
      ['48200.50', '-0.1', null, '1,250', '1e9', '1'.repeat(16), undefined].map(value => on({ ...figure, value })),
    ).toEqual([true, true, true, false, false, false, false])
    const bar = { on: 'bar', topic: 'lift', from: '2027-05-03' }
    expect(['2027-05-12', '2027-02-30', 'soon', null].map(to => on({ ...bar, to }))).toEqual([
      true,
      false,
      false,
      false,
    ])
  })
})
