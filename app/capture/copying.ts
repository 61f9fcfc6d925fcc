import { readItems } from '#core/capture/quick-details'
import { Unreadable } from '#core/capture/nested'
import { writeHtmlList, writeNested } from '#core/formats/clipboard'
import { childrenOf, filesIn, isLive, type OutlineItem, plantAt, type TopicId, topmost, toOutline } from '#core/tree'
import { removeSelection } from './building'
import { type Branches, type Copied, type HtmlReader, type Pasted, readPasted } from './pasted'
import { isLarge, readAside } from './read-aside'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** The media type under which whole branches travel between trees of ours. */
const BRANCH_TYPE = 'text/x-sun-porch'

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
  const tops = topmost(desk.tree, desk.selected())
  const items = tops.map(id => toOutline(desk.tree, id))
  data.setData('text/plain', writeNested(items).trimEnd())
  data.setData('text/html', htmlWriter?.(desk, tops) ?? writeHtmlList(items))
  data.setData(BRANCH_TYPE, JSON.stringify({ tree: desk.session.treeId, items } satisfies Copied))
}

export function cut(desk: Desk, data: DataTransfer): void {
  copy(desk, data)
  if (desk.guard()) removeSelection(desk)
}

/** The reader and the writer of HTML lists, once they are here: they aren't needed for the first look. */
let htmlReader: HtmlReader | null = null
let htmlWriter: ((desk: Desk, tops: readonly TopicId[]) => string) | null = null

/** Fetches what copying and pasting need, so that neither waits for it. Without a line HTML is read as its plain text. */
export async function readyToPaste(): Promise<void> {
  await Promise.all([
    import('./copied-html').then(
      ({ copiedHtml }) => void (htmlWriter = copiedHtml),
      () => {},
    ),
    import('#core/capture/html-list').then(
      ({ readHtmlList }) => void (htmlReader = readHtmlList),
      () => {},
    ),
  ])
}

/**
 * Puts what a clipboard holds below the focus: branches of ours whole, nested lists as branches. Large ones are read in a thread of
 * their own. False when it holds nothing of the kind.
 */
export function paste(desk: Desk, data: DataTransfer): boolean {
  if (!desk.guard()) return true
  const at = desk.focus.value
  const pasted: Pasted = {
    own: data.getData(BRANCH_TYPE),
    html: data.getData('text/html'),
    text: data.getData('text/plain'),
    tree: desk.session.treeId,
  }
  const here = (): boolean => {
    const read = readHere(desk, pasted)
    return read === null || plant(desk, read, at)
  }
  if (isLarge(pasted)) void readLarge(desk, pasted).then(read => read && plant(desk, read, at))
  else if (pasted.own || !pasted.html || htmlReader) return here()
  else void readyToPaste().then(here)
  return true
}

/** Null when it can't be read, which was said. */
function readHere(desk: Desk, pasted: Pasted): Branches | null {
  try {
    return readPasted(pasted, htmlReader)
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error
    desk.say(error.message)
    return null
  }
}

/** Reads what is large, as long as it isn't given up. Null when it can't be read, which was said. */
export async function readLarge(desk: Desk, pasted: Pasted): Promise<Branches | null> {
  const giveUp = new AbortController()
  desk.say('Reading what was pasted …', {
    name: 'Give up',
    run: () => giveUp.abort(),
    holds: () => !giveUp.signal.aborted,
  })
  try {
    return await readAside(pasted, giveUp.signal)
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error
    desk.say(error.message)
    return null
  }
}

function plant(desk: Desk, { items: read, from, plain }: Branches, wanted: TopicId): boolean {
  try {
    // Words after // in pasted lines are details, as in typed ones; branches of ours carry their own.
    const items = plain ? readItems(read, desk.known()) : read
    if (items.length === 0) return false
    // Whoever reads for long may find the topic gone.
    if (!desk.guard()) return true
    const at = isLive(desk.tree, wanted) ? wanted : desk.tree.centre
    // Without a side of its own each branch goes where the tree is lighter.
    const step = plantAt(desk.tree, items, { parent: at, index: childrenOf(desk.tree, at).length }, newId)
    if (desk.isFolded(at)) desk.toggleFold([at])
    if (desk.run(step)) {
      const count = step.changes.filter(change => change.op === 'add').length
      desk.selectAll(step.made)
      if (from) void bringFiles(desk, from, items)
      if (count > 1) desk.say(`Pasted ${count.toLocaleString('en')} topics.`, true)
    }
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error
    desk.say(error.message)
  }
  return true
}
