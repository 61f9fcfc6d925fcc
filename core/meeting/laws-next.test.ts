import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, changeSchema, childrenOf, invertAll, isLive, toSnapshot, topicOf } from '../tree'
import { itemsOf, layOut } from './agenda'
import { meetingOf, meetingsOf, sayPart, seriesOf } from './brief'
import { minutesOf } from './minutes'
import { carriedInto, nextMeeting, openItemId, stillOpen } from './next'
import { capture, entriesOf, raisedIn } from './record'
import { copyOf, lists, MINUTE, picture, START, treeWith } from './laws-fixture'

/* Laws of what goes on from one meeting to the next, and of its record. */

const records = fc.array(
  fc.record({
    kind: fc.constantFrom(
      'decision' as const,
      'action' as const,
      'question' as const,
      'idea' as const,
      'parked' as const,
    ),
    done: fc.boolean(),
    removed: fc.boolean(),
    due: fc.constantFrom(null, '2027-03-01', '2027-12-01'),
  }),
  { maxLength: 12 },
)

describe('from one meeting to the next', () => {
  it('goes on just what is open: as live references, each once, and through any number of meetings', () => {
    fc.assert(
      fc.property(lists, fc.array(records, { minLength: 1, maxLength: 4 }), (lines, meetings) => {
        const tree = treeWith(lines)
        applyChanges(tree, layOut(tree, 'm'))
        let made = 0
        const newId = (): string => `t${made++}`
        let at = 'm'
        const open = new Set<string>()
        meetings.forEach((record, n) => {
          record.forEach(({ kind, done, removed, due }, i) => {
            const item = itemsOf(tree, at)[i % itemsOf(tree, at).length]!.id
            const { changes, id } = capture(
              tree,
              item,
              kind,
              { title: `${kind} ${n} ${i}`, ...(due ? { due } : {}), ...(done ? { done: 100 } : {}) },
              { by: 'ines', name: 'Ines', at: START },
              newId,
            )
            applyChanges(tree, changes)
            if (removed) applyChanges(tree, [{ op: 'remove', topic: id }])
            else if (!done && kind !== 'decision' && kind !== 'idea') open.add(id)
          })
          applyChanges(tree, [sayPart(at, { id: 'stage', kind: 'stage', stage: 'ended' })])
          const { changes, id } = nextMeeting(tree, at, newId)
          for (const change of changes) expect(changeSchema.safeParse(change).success).toBe(true)
          const before = picture(tree)
          const patches = applyChanges(tree, changes)
          const shown = childrenOf(tree, openItemId(id)).map(child => topicOf(tree, child).reference!.topic)
          expect(new Set(shown)).toEqual(open)
          expect(shown).toHaveLength(open.size)
          expect(carriedInto(tree, id, '2027-03-02').map(({ carried }) => carried.id)).toEqual(shown)
          expect(
            carriedInto(tree, id, '2027-03-02').every(({ carried }) => carried.meetings >= 1 && carried.days >= 7),
          ).toBe(true)
          // References raise nothing of their own.
          expect([entriesOf(tree, id), raisedIn(tree, id)]).toEqual([[], []])
          expect(meetingOf(tree, openItemId(id))).toBe(open.size > 0 ? id : meetingOf(tree, openItemId(id)))
          // Undone, the tree is as it was, but for what lies in the trash.
          const undone = copyOf(tree)
          applyChanges(undone, invertAll(changes, patches))
          expect(
            JSON.stringify(
              [...toSnapshot(undone).topics]
                .filter(topic => isLive(undone, topic.id))
                .map(({ id: one }) => one)
                .sort(),
            ),
          ).toBe(
            JSON.stringify(
              (JSON.parse(before) as { id: string }[])
                .map(({ id: one }) => one)
                .filter(one => isLive(tree, one) || undone.topics.get(one))
                .filter(one => isLive(undone, one))
                .sort(),
            ),
          )
          at = id
        })
        expect(seriesOf(tree, at)).toHaveLength(meetings.length + 1)
        expect(meetingsOf(tree)).toHaveLength(meetings.length + 1)
        expect(new Set(stillOpen(tree, at, '2099-01-01').map(({ id }) => id))).toEqual(open)
      }),
      { numRuns: 40 },
    )
  })
  it('the minutes name every line of the record once, with its owner and day', () => {
    fc.assert(
      fc.property(lists, records, (lines, record) => {
        const tree = treeWith(lines)
        applyChanges(tree, layOut(tree, 'm'))
        let made = 0
        record.forEach(({ kind, due }, i) => {
          const under = i % 3 === 2 ? 'm' : itemsOf(tree, 'm')[i % lines.length]!.id
          applyChanges(
            tree,
            capture(
              tree,
              under,
              kind,
              { title: `${kind} ${i}`, people: ['oskar'], ...(due ? { due } : {}) },
              { by: 'rana', name: 'Rana', at: START + i * MINUTE },
              () => `t${made++}`,
            ).changes,
          )
        })
        const minutes = minutesOf(tree, 'm', id => `${id}!`)
        const named = [...minutes.items.flatMap(item => item.lines), ...minutes.besides].map(({ id }) => id)
        expect(named.sort()).toEqual(
          entriesOf(tree, 'm')
            .map(({ id }) => id)
            .sort(),
        )
        expect(minutes.actions.map(({ owners, due, by }) => [owners, due, by])).toEqual(
          entriesOf(tree, 'm')
            .filter(({ entry }) => entry!.kind === 'action')
            .map(({ due }) => [['oskar!'], due, 'rana!']),
        )
        expect(minutes.parked).toHaveLength(record.filter(({ kind }) => kind === 'parked').length)
      }),
    )
  })
})
