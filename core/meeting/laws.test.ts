import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  applyChanges,
  type Change,
  changeSchema,
  childrenOf,
  isLive,
  Refused,
  topicOf,
  type Tree,
  unapply,
} from '../tree'
import { itemsOf, layOut, minutesNeeded, moveItem, patternId, runningOf, sayItem, timed } from './agenda'
import { briefOf, sayPart } from './brief'
import { cutToEnd, forecastEnd, spentOn } from './clock'
import { plannedOf, type World } from './planned'
import { type Finding, findingsOf, readinessOf } from './readiness'
import { type Move, moveOn } from './running'
import { lists, MINUTE, picture, START, treeWith } from './laws-fixture'

/* Laws of meetings, on meetings that nobody thought of. */

/** What people may do between one laying out and the next. */
const tamper = fc.array(
  fc.record({
    what: fc.constantFrom('rename', 'remove', 'add', 'minutes', 'move', 'owner', 'line', 'pattern'),
    at: fc.nat({ max: 40 }),
  }),
  { maxLength: 12 },
)
function tamperWith(tree: Tree, all: readonly { what: string; at: number }[], from = 0): void {
  all.forEach(({ what, at }, i) => {
    const n = from + i
    const below = [...tree.topics.values()].filter(
      topic => topic.id !== 'c' && topic.id !== 'm' && isLive(tree, topic.id),
    )
    const topic = below[at % Math.max(1, below.length)]
    const items = itemsOf(tree, 'm')
    const item = items[at % Math.max(1, items.length)]
    const changes: Change[] =
      what === 'line'
        ? [
            sayPart('m', {
              id: `x${n}`,
              kind: 'line',
              order: `c${n}V`,
              title: `late ${n}`,
              intent: 'inform',
              minutes: 5,
              floor: null,
              owner: null,
              serves: [],
              pattern: ['Report'],
            }),
          ]
        : what === 'add'
          ? [{ op: 'add', topic: `n${n}`, parent: topic?.id ?? 'm', order: `a${n}V`, with: { title: `own ${n}` } }]
          : !topic
            ? []
            : what === 'rename'
              ? [{ op: 'set', topic: topic.id, field: 'title', value: `said ${n}` }]
              : what === 'remove'
                ? [{ op: 'remove', topic: topic.id }]
                : !item
                  ? []
                  : what === 'minutes'
                    ? [sayItem(item.id, { id: 'minutes', kind: 'minutes', minutes: 7 })]
                    : what === 'move'
                      ? moveItem(tree, item.id, at % 2 ? 1 : -1)
                      : what === 'owner'
                        ? [{ op: 'put', topic: item.id, set: 'people', member: 'lev' }]
                        : [sayItem(item.id, { id: 'pattern', kind: 'pattern', parts: ['Facts', 'Report'] })]
    applyChanges(tree, changes)
  })
}

describe('laying out the agenda', () => {
  it('makes every line a topic in order, needs the same minutes, and is done when it’s done', () => {
    fc.assert(
      fc.property(lists, lines => {
        const tree = treeWith(lines)
        const needed = minutesNeeded(tree, 'm')
        const changes = layOut(tree, 'm')
        for (const change of changes) expect(changeSchema.safeParse(change).success).toBe(true)
        applyChanges(tree, changes)
        expect(itemsOf(tree, 'm').map(({ title, minutes, owners }) => [title, minutes, owners])).toEqual(
          lines.map(({ title, minutes, owner }) => [title, minutes, owner === null ? [] : [owner]]),
        )
        expect([briefOf(topicOf(tree, 'm')).lines, minutesNeeded(tree, 'm'), layOut(tree, 'm')]).toEqual([
          [],
          needed,
          [],
        ])
        lines.forEach(({ pattern }, i) =>
          expect(childrenOf(tree, `l${i}`).map(id => topicOf(tree, id).title)).toEqual(pattern),
        )
      }),
    )
  })
  it('done again after whatever people did, it only adds: no topic that was there changes, nothing removed comes back, nothing doubles', () => {
    fc.assert(
      fc.property(lists, tamper, tamper, (lines, first, second) => {
        const tree = treeWith(lines)
        tamperWith(tree, first)
        applyChanges(tree, layOut(tree, 'm'))
        tamperWith(tree, second, 50)
        const before = new Map(tree.topics)
        const changes = layOut(tree, 'm')
        applyChanges(tree, changes)
        for (const [id, topic] of before) if (id !== 'm') expect(topicOf(tree, id)).toBe(topic)
        expect(layOut(tree, 'm')).toEqual([])
        for (const { id, pattern } of itemsOf(tree, 'm'))
          for (const part of pattern)
            expect(childrenOf(tree, id).filter(child => child === patternId(id, part)).length).toBeLessThanOrEqual(1)
      }),
    )
  })
  it('by two people at once, the second is refused whole and loses nothing', () => {
    fc.assert(
      fc.property(lists, lines => {
        const tree = treeWith(lines)
        const [mine, theirs] = [layOut(tree, 'm'), layOut(tree, 'm')]
        applyChanges(tree, mine)
        const after = picture(tree)
        expect(() => applyChanges(tree, theirs)).toThrow(Refused)
        expect(picture(tree)).toBe(after)
      }),
    )
  })
  it('is undone exactly', () => {
    fc.assert(
      fc.property(lists, tamper, (lines, first) => {
        const tree = treeWith(lines)
        tamperWith(tree, first)
        const before = picture(tree)
        const changes = layOut(tree, 'm')
        unapply(tree, applyChanges(tree, changes))
        expect(picture(tree)).toBe(before)
      }),
    )
  })
  it('different parts of a brief that two people fill in at once both stay, in either order', () => {
    const mine: Change[] = [
      sayPart('m', { id: 'begins', kind: 'begins', day: '2027-03-09', time: '09:00', zone: 'UTC' }),
      sayPart('m', { id: 'm1', kind: 'must', order: 'a0', text: 'Which firm' }),
    ]
    const theirs: Change[] = [
      sayPart('m', { id: 'a-p1', kind: 'answer', of: 'p1', answer: 'accepted', comment: '', at: 1 }),
      sayPart('m', { id: 'where', kind: 'where', text: 'Loft' }),
    ]
    const [one, other] = [treeWith([]), treeWith([])]
    applyChanges(one, [...mine, ...theirs])
    applyChanges(other, [...theirs, ...mine])
    const sorted = (tree: Tree): string =>
      JSON.stringify([...topicOf(tree, 'm').meeting].sort((a, b) => (a.id < b.id ? -1 : 1)))
    expect(sorted(one)).toBe(sorted(other))
    expect(briefOf(topicOf(one, 'm'))).toMatchObject({
      where: 'Loft',
      begins: { time: '09:00' },
      musts: [{ text: 'Which firm' }],
    })
  })
})

const steps = fc.array(
  fc.record({
    to: fc.constantFrom('next', 'back', 'pause', 'go-on', 'item', 'end', 'begin'),
    after: fc.integer({ min: 0, max: 20 * MINUTE }),
    stale: fc.boolean(),
    item: fc.nat({ max: 7 }),
  }),
  { maxLength: 20 },
)

describe('the running', () => {
  it('spends just the time that the clock ran on an item, counts each move once, and is always on an item or through', () => {
    fc.assert(
      fc.property(lists, steps, (lines, all) => {
        const tree = treeWith(lines)
        applyChanges(tree, layOut(tree, 'm'))
        let now = START
        let ran = 0
        let step = 0
        for (const { to, after, stale, item } of [{ to: 'begin', after: 0, stale: false, item: 0 }, ...all]) {
          const { run, stage } = briefOf(topicOf(tree, 'm'))
          now += after
          const move = (to === 'item' ? { to, item: `l${item % lines.length}` } : { to }) as Move
          const moved = moveOn(tree, 'm', move, stale && run ? run.step - 1 : (run?.step ?? null), now, 'ines', 1)
          if (stale && run && to !== 'begin' && stage === 'running') expect(moved.kind).toBe('already')
          if (moved.kind !== 'moved') continue
          if (run?.since != null && run.current !== null) ran += now - run.since
          expect(moved.step).toBe(++step)
          applyChanges(tree, moved.changes)
        }
        const { run, stage } = briefOf(topicOf(tree, 'm'))
        expect(itemsOf(tree, 'm').reduce((sum, { spent }) => sum + spent, 0)).toBe(ran)
        expect(run!.current === null || itemsOf(tree, 'm').some(({ id }) => id === run!.current)).toBe(true)
        expect(stage === 'ended').toBe(run!.ended !== null)
        const running = runningOf(tree, 'm')
        if (!running) return
        // What is told of the end never lies in the past, and a cut never makes it later.
        const list = itemsOf(tree, 'm').map(timed)
        const end = forecastEnd(list, running, now)
        expect(end).toBeGreaterThanOrEqual(now)
        const cut = cutToEnd(list, running, now, START + 30 * MINUTE)
        const shorter = list.map(item => ({ ...item, minutes: cut.minutes.get(item.id) ?? item.minutes }))
        expect(forecastEnd(shorter, running, now)).toBeLessThanOrEqual(end)
        expect(spentOn(list, running, running.current, now)).toBeGreaterThanOrEqual(0)
      }),
    )
  })
})

const world: World = { nameOf: id => id, lead: 'ines', elsewhere: new Map(), closed: new Set(), reading: {} }

/** Does what a finding asks for. */
function mend(tree: Tree, { kind, where }: Finding): Change[] {
  const item = 'item' in where ? where.item : ''
  switch (kind) {
    case 'why-missing':
      return [sayPart('m', { id: 'why', kind: 'why', text: 'So that we know.' })]
    case 'musts-missing':
      return [sayPart('m', { id: 'm1', kind: 'must', order: 'a0', text: 'The one thing' })]
    case 'must-unserved':
      return [sayItem(itemsOf(tree, 'm')[0]!.id, { id: 'must' in where ? where.must : '', kind: 'serves' })]
    case 'item-minutes':
      return [sayItem(item, { id: 'minutes', kind: 'minutes', minutes: 5 })]
    case 'item-owner':
      return [{ op: 'put', topic: item, set: 'people', member: 'oskar' }]
    case 'not-laid-out':
      return layOut(tree, 'm')
    case 'nobody-needed':
      return [
        sayPart('m', { id: 'p1', kind: 'person', user: 'ines', mail: null, name: '', needed: true, role: 'chair' }),
      ]
    case 'not-invited':
      return [
        sayPart('m', {
          id: 'invitation',
          kind: 'invitation',
          uid: 'u',
          sequence: 0,
          at: 1,
          by: 'ines',
          to: briefOf(topicOf(tree, 'm')).people.map(({ id }) => ({ id, mail: 'ines@porch.example' })),
          digest: 'd',
        }),
      ]
    default:
      throw new Error(`nothing was said of ${kind}`)
  }
}

describe('readiness', () => {
  it('each finding is mended where it leads, never lowers how ready it is, and with the last one it’s ready', () => {
    fc.assert(
      fc.property(lists, lines => {
        const tree = treeWith(lines)
        applyChanges(tree, layOut(tree, 'm'))
        let before = readinessOf(plannedOf(tree, 'm', world))
        for (let i = 0; i < 100; i++) {
          const [finding] = findingsOf(plannedOf(tree, 'm', world))
          if (!finding) break
          applyChanges(tree, mend(tree, finding))
          const after = findingsOf(plannedOf(tree, 'm', world))
          expect(
            after.some(
              other => other.kind === finding.kind && JSON.stringify(other.where) === JSON.stringify(finding.where),
            ),
          ).toBe(false)
          const now = readinessOf(plannedOf(tree, 'm', world))
          // Naming the first thing to be settled, or the first person, asks for more than it gives.
          if (!['musts-missing', 'nobody-needed'].includes(finding.kind)) expect(now).toBeGreaterThanOrEqual(before)
          before = now
        }
        expect([findingsOf(plannedOf(tree, 'm', world)), before]).toEqual([[], 1])
      }),
    )
  })
})
