import type { Topic } from './topic'

/** Siblings stand by key, and equal keys by id, so that every copy agrees. */
export function compareSiblings(a: Pick<Topic, 'order' | 'id'>, b: Pick<Topic, 'order' | 'id'>): number {
  if (a.order !== b.order) return a.order < b.order ? -1 : 1
  return a.id < b.id ? -1 : a.id > b.id ? 1 : 0
}
