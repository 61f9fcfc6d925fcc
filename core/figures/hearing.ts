import { eachOut, type Outs } from './outs'
import type { Figure } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { branch } from '../tree/walk'
import type { Graph } from './graph'
import type { Model } from './model'
import type { ListNode, Node } from './nodes'

/** Marks what stands on a topic that changed, and nothing else. */
export class Hearing {
  constructor(
    private readonly model: Model,
    private readonly graph: Graph,
  ) {}

  heard(id: TopicId): void {
    const tree = this.model.tree()
    const before = this.graph.known!.get(id)
    const after = tree.topics.get(id)
    if (before === after) return
    if (after) this.graph.known!.set(id, after)
    else this.graph.known!.delete(id)
    const stood = before && !before.removed ? before.parent : undefined
    const stands = after && !after.removed ? after.parent : undefined
    const moved = stood !== stands || before?.order !== after?.order || before?.tray !== after?.tray
    if (moved) {
      for (const parent of new Set([stood, stands])) if (parent) this.isOtherBelow(parent, id)
      if (stood !== stands) this.isElsewhere(id)
    }
    // Whoever begins or ends to show another topic loses or gets back all figures.
    if ((before?.reference ?? null) !== (after?.reference ?? null)) {
      if (stands) this.isOtherBelow(stands, id)
      for (const nodes of this.graph.cells.values()) {
        const node = nodes.get(id)
        if (node) this.graph.spoil(node)
      }
      this.numbersChanged(id, this.graph.byGiven.keys())
    }
    if (before?.figures !== after?.figures) this.figuresChanged(id, before?.figures ?? [], after?.figures ?? [])
    // What conditions and properties ask for: anything but the figures.
    this.listsAbove(id, node => {
      if (node.members) node.stale.add(id)
      this.graph.spoil(node)
    })
    for (const node of eachOut(this.graph.byTopic.get(id) ?? null)) this.graph.spoil(node)
  }
  /** A child came, went or changed places. */
  isOtherBelow(parent: TopicId, child: TopicId): void {
    for (const nodes of this.graph.rolls.values()) {
      const node = nodes.get(parent)
      if (!node) continue
      node.stale.add(child)
      this.graph.spoil(node)
    }
    const { topics } = this.model.tree()
    for (const nodes of this.graph.belows.values())
      for (let at: TopicId | null = parent, from = child; at !== null; from = at, at = topics.get(at)?.parent ?? null) {
        // A topic that had nothing below it has no sum of its own: the next one up gathers it.
        const node = nodes.get(at)
        if (!node) continue
        node.stale.add(from)
        this.graph.spoil(node)
        break
      }
    // A parent of none has no figure, and one of some has: its own cell may be another without a roll-up so far.
    for (const nodes of this.graph.cells.values()) {
      const node = nodes.get(parent)
      if (node) this.graph.spoil(node)
    }
    const gather = (node: ListNode): void => {
      node.members = null
      this.graph.spoil(node)
    }
    for (const node of this.graph.lists.get(parent) ?? []) gather(node)
    this.listsAbove(parent, gather)
  }
  listsAbove(id: TopicId, each: (node: ListNode) => void): void {
    if (this.graph.lists.size === 0) return
    const { topics } = this.model.tree()
    for (let at = topics.get(id)?.parent ?? null; at !== null; at = topics.get(at)?.parent ?? null)
      for (const node of this.graph.lists.get(at) ?? []) each(node)
  }
  /** A branch hangs elsewhere, or went to the trash or came from there. */
  isElsewhere(id: TopicId): void {
    for (const node of this.graph.byParent) this.again(node)
    if (this.graph.byTopic.size === 0 || !this.model.tree().topics.has(id)) return
    for (const { id: below } of branch(this.model.tree(), id)) this.againAll(this.graph.byTopic.get(below))
  }
  /** What it stands on is another, not only what that says. */
  private again(node: Node): void {
    if (node.kind === 'cell') node.text = undefined
    else if (node.kind === 'list') node.members = null
    this.graph.spoil(node)
  }
  private againAll(outs: Outs | undefined): void {
    for (const node of eachOut(outs ?? null)) this.again(node)
  }
  /** A number that formulas read where they ask for it may be a formula now, or gone. */
  private numbersChanged(id: TopicId, measures: Iterable<string>): void {
    for (const measure of measures) this.againAll(this.graph.byGiven.get(measure)?.get(id))
    for (const node of eachOut(this.graph.byTopic.get(id) ?? null)) if (node.kind === 'cell') this.again(node)
    for (const nodes of this.graph.cells.values()) {
      const node = nodes.get(id)
      if (node?.formula) this.again(node)
    }
  }
  figuresChanged(id: TopicId, before: readonly Figure[], after: readonly Figure[]): void {
    const measures = new Set<string>()
    for (const one of before) if (!after.includes(one)) measures.add(one.measure)
    for (const one of after) if (!before.includes(one)) measures.add(one.measure)
    if (measures.size > 0) this.numbersChanged(id, measures)
    const parent = this.model.tree().topics.get(id)?.parent ?? null
    for (const measure of measures) {
      const node = this.graph.cells.get(measure)?.get(id)
      if (node) this.graph.spoil(node)
      const below = parent === null ? undefined : this.graph.belows.get(measure)?.get(parent)
      if (!below) continue
      below.stale.add(id)
      this.graph.spoil(below)
    }
  }
}
