import type { Caller } from '../../tests/caller'

/** A stored tree of `count` topics `t0`, `t1` …, on two levels. Returns its id. */
export async function shelves(caller: Caller, title: string, count: number): Promise<string> {
  const id = await caller.makeTree(title)
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(
    id,
    Array.from({ length: count }, (_, i) => ({
      op: 'add' as const,
      topic: `t${i}`,
      parent: i < 20 ? centre : `t${i % 20}`,
      order: `a${i.toString(36).padStart(4, '0')}1`,
      with: { title: `Shelf ${i}` },
    })),
  )
  return id
}
