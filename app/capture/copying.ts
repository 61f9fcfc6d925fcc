import { readItems } from '#core/capture/quick-details'
import { readHtmlList } from '#core/capture/html-list'
import { readNested, Unreadable } from '#core/capture/nested'
import { writeHtmlList, writeNested } from '#core/formats/clipboard'
import { childrenOf, filesIn, fromElsewhere, type OutlineItem, plantAt, topmost, toOutline } from '#core/tree'
import { removeSelection } from './building'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** The media type under which whole branches travel between trees of ours. */
const BRANCH_TYPE = 'text/x-sun-porch'

interface Copied {
  readonly tree: string
  readonly items: readonly OutlineItem[]
}

/** Branches of ours as they come into this tree: what led inside the other tree still leads there. */
function arriving(desk: Desk, text: string): { readonly items: readonly OutlineItem[]; readonly from: string | null } {
  const { tree, items } = JSON.parse(text) as Copied
  return tree === desk.session.treeId ? { items, from: null } : { items: fromElsewhere(items, tree), from: tree }
}

/** Files and pictures of pasted branches are given to this tree too, as far as one may see them there. */
async function bringFiles(desk: Desk, from: string, items: readonly OutlineItem[]): Promise<void> {
  const files = filesIn(items)
  if (files.length === 0) return
  await callApi(`/api/trees/${desk.session.treeId}/files/from-tree`, {
    method: 'POST',
    body: { tree: from, files },
  }).then(
    () => desk.redress(),
    () => desk.say('The topics are here, but their files and pictures couldn’t be brought along.'),
  )
}

/** Puts the selected branches on a clipboard: whole for trees of ours, as nested lists for other programs. */
export function copy(desk: Desk, data: DataTransfer): void {
  const items = topmost(desk.tree, desk.selected()).map(id => toOutline(desk.tree, id))
  data.setData('text/plain', writeNested(items).trimEnd())
  data.setData('text/html', writeHtmlList(items))
  data.setData(BRANCH_TYPE, JSON.stringify({ tree: desk.session.treeId, items } satisfies Copied))
}

export function cut(desk: Desk, data: DataTransfer): void {
  copy(desk, data)
  if (desk.guard()) removeSelection(desk)
}

/**
 * Puts what a clipboard holds below the focus: branches of ours whole, nested lists as branches. False when it holds
 * nothing of the kind.
 */
export function paste(desk: Desk, data: DataTransfer): boolean {
  if (!desk.guard()) return true
  try {
    const own = data.getData(BRANCH_TYPE)
    const html = data.getData('text/html')
    const ours = own ? arriving(desk, own) : null
    // Words after // in pasted lines are details, as in typed ones; branches of ours carry their own.
    const items =
      ours?.items ??
      readItems((html ? readHtmlList(html) : null) ?? readNested(data.getData('text/plain')), desk.known())
    if (items.length === 0) return false
    const at = desk.focus.value
    // Without a side of its own each branch goes where the tree is lighter.
    const step = plantAt(desk.tree, items, { parent: at, index: childrenOf(desk.tree, at).length }, newId)
    if (desk.isFolded(at)) desk.toggleFold([at])
    if (desk.run(step)) {
      const count = step.changes.filter(change => change.op === 'add').length
      desk.selectAll(step.made)
      if (ours?.from) void bringFiles(desk, ours.from, items)
      if (count > 1) desk.say(`Pasted ${count.toLocaleString('en')} topics.`, true)
    }
  } catch (error) {
    if (!(error instanceof Unreadable || error instanceof SyntaxError)) throw error
    desk.say(error instanceof Unreadable ? error.message : 'What was copied can’t be read. Nothing was changed.')
  }
  return true
}
