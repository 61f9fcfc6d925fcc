import { allTopics, targetOf, type TopicId, type Tree } from '../tree'

/** A web address that links of a tree lead to, and from where, in reading order. */
export interface WebAddress {
  readonly address: string
  readonly topics: readonly TopicId[]
}

const addressesAt = (links: readonly { readonly url: string }[]): string[] =>
  links.flatMap(({ url }) => {
    const target = targetOf(url)
    return target?.kind === 'web' ? [target.url] : []
  })

/** Every web address of a tree once, the trash left out. */
export function webAddresses(tree: Tree): WebAddress[] {
  const found = new Map<string, TopicId[]>()
  for (const { id, links } of allTopics(tree)) {
    for (const address of addressesAt(links)) {
      const topics = found.get(address)
      if (topics) topics.push(id)
      else found.set(address, [id])
    }
  }
  return [...found].map(([address, topics]) => ({ address, topics: [...new Set(topics)] }))
}

/**
 * Sections without a web address where others beside them have one: of siblings that are some linked and some not, those that
 * aren't. In reading order.
 */
export function withoutAddress(tree: Tree): TopicId[] {
  const linked = new Set<TopicId>()
  for (const { parent, links } of allTopics(tree))
    if (parent !== null && addressesAt(links).length > 0) linked.add(parent)
  const without: TopicId[] = []
  for (const { id, parent, links } of allTopics(tree))
    if (parent !== null && linked.has(parent) && addressesAt(links).length === 0) without.push(id)
  return without
}
