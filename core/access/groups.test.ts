import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { BLANK, type Change, emptyTree, applyChanges } from '../tree'
import { groupSchema } from '../tree/group'
import { idsOf, missingOf, offerOf, settled, unaskedOf } from './groups'
import { Part } from './sees'

const PEOPLE = [
  { id: 'ines', email: 'ines@porch.example', role: 'owner' },
  { id: 'rana', email: 'Rana@porch.example', role: 'editor' },
  { id: 'oskar', email: 'oskar@porch.example', role: 'viewer' },
]

describe('a group of people', () => {
  it('means whoever is in the tree, by account or by address, each once', () => {
    const who = ['rana', 'rana@porch.example', 'ines@porch.example', 'nobody', 'ida@town.example']
    expect(idsOf(who, PEOPLE)).toEqual(['rana', 'ines'])
    expect(settled(who, PEOPLE)).toEqual(['rana', 'ines', 'nobody', 'ida@town.example'])
    expect(missingOf(who, PEOPLE, [])).toEqual(['ida@town.example'])
    expect(missingOf(who, PEOPLE, ['ida@town.example'])).toEqual([])
    // Somebody who has left can't be asked; who was asked by address and has an account by now isn't asked twice.
    expect(unaskedOf(who, PEOPLE, new Set(['ines']))).toEqual(['rana', 'ida@town.example'])
  })

  it('offers who came and who went since it was let in; nothing where it never was', () => {
    const shared = { role: 'editor' as const, who: ['rana', 'oskar', 'ines'] }
    const who = ['rana@porch.example', 'ida@town.example', 'tomas@town.example']
    expect(offerOf(who, null, PEOPLE, [])).toEqual({ come: [], gone: [] })
    // The owner isn't sent away by a list.
    expect(offerOf(who, shared, PEOPLE, ['tomas@town.example'])).toEqual({
      come: ['ida@town.example'],
      gone: ['oskar'],
    })
    // Whoever was let in by address and has an account by now is the same person.
    expect(offerOf(['rana'], { role: 'viewer', who: ['rana@porch.example'] }, PEOPLE, [])).toEqual({
      come: [],
      gone: [],
    })
  })

  it('offers nothing twice: once the present list is what was shared, there is nothing left', () => {
    const entry = fc.constantFrom('ines', 'rana', 'oskar', 'gone', 'rana@porch.example', 'a@b.example', 'c@d.example')
    fc.assert(
      fc.property(fc.array(entry), fc.array(entry), (before, now) => {
        const { come, gone } = offerOf(now, { role: 'editor', who: before }, PEOPLE, [])
        for (const one of come) expect(settled(before, PEOPLE)).not.toContain(one)
        for (const one of gone) expect(settled(now, PEOPLE)).not.toContain(one)
        expect(offerOf(now, { role: 'editor', who: now }, PEOPLE, [])).toEqual({ come: [], gone: [] })
      }),
    )
  })

  it('takes addresses in small letters alone, so that nobody is in it twice', () => {
    const group = { id: 'g', name: 'Board', who: ['ida@town.example'], shared: null }
    expect(groupSchema.safeParse(group).success).toBe(true)
    for (const who of [['Ida@town.example'], ['not an address'], ['a b'], [''], Array(201).fill('x')])
      expect(groupSchema.safeParse({ ...group, who }).success, String(who[0])).toBe(false)
    expect(groupSchema.safeParse({ ...group, name: ' ' }).success).toBe(false)
  })

  it('is for those who have the whole tree: whoever is given a part has neither it nor news of it', () => {
    const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: '', title: 'Move' })
    const change: Change = {
      op: 'tree-put',
      set: 'groups',
      member: { id: 'g', name: 'Board', who: ['ida@town.example'], shared: null },
    }
    applyChanges(tree, [change])
    const part = new Part(tree, { branch: null, without: new Set(['notes']) })
    expect(JSON.stringify(part.snapshot())).not.toContain('ida@')
    expect(part.news([change, { op: 'tree-take', set: 'groups', member: 'g' }])).toEqual([])
    expect(part.news([{ op: 'tree', field: 'along', value: 120 }])).toHaveLength(1)
  })
})
