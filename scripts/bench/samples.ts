import { BLANK, FRESH_FIELDS, fromSnapshot, type Snapshot, type Topic, type Tree } from '../../core/tree'
import { random } from './table'

const WORDS =
  'shelf crate lamp river loft oak paint lift door book map key clock bridge table poster reader chair carpet window'.split(
    ' ',
  )

/** A tree of `count` topics as people build them: a few main branches, uneven, up to eight levels. */
export function sampleTree(count: number, seed = 7): Tree {
  const dice = random(seed)
  const topics: Partial<Topic>[] = [{ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move to the tannery' }]
  const depthOf = new Map([['c', 0]])
  const ids = ['c']
  for (let i = 1; i < count; i++) {
    let parent = i < 12 ? 'c' : ids[Math.floor(dice() ** 0.8 * ids.length)]!
    while (depthOf.get(parent)! >= 8) parent = ids[Math.floor(dice() * ids.length)]!
    if (parent === 'c' && i > 60) parent = ids[1 + Math.floor(dice() * Math.min(59, ids.length - 1))]!
    const id = `t${i}`
    const title = Array.from(
      { length: 1 + Math.floor(dice() * 5) },
      () => WORDS[Math.floor(dice() * WORDS.length)],
    ).join(' ')
    topics.push({ id, parent, order: `a${String(i).padStart(6, '0').replace(/0+$/, '') || '1'}V`, title })
    ids.push(id)
    depthOf.set(id, depthOf.get(parent)! + 1)
  }
  return fromSnapshot({ centre: 'c', fields: FRESH_FIELDS, topics: topics as Snapshot['topics'] })
}
