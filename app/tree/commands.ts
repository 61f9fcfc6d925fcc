import type { Desk } from './desk'

export interface Command {
  readonly id: string
  readonly name: string
  readonly group: 'Type and build' | 'Move' | 'Go' | 'See' | 'Mark and plan' | 'General'
  /** Whether it stands on the context menu of a topic. */
  readonly menu?: boolean
  readonly changes?: boolean
  run(desk: Desk, house: House): void
}

/** What the page around the tree can do. */
export interface House {
  fit(): void
  zoom(by: number | 'whole'): void
  open(what: 'everything' | 'keys' | 'markers' | 'share'): void
  toggleTheme(): void
  into(part: 'note' | 'task'): void
}

const depth = (n: number | null): Command => ({ id: n === null ? 'depth-all' : `depth-${n}`, name: n === null ? 'Open all levels' : `Open to depth ${n}`, group: 'See', run: desk => desk.openTo(n) })
const go = (direction: 'up' | 'down' | 'left' | 'right'): Command[] => [
  { id: direction, name: `Go ${direction}`, group: 'Go', run: desk => desk.go(direction) },
  { id: `extend-${direction}`, name: `Extend the selection ${direction}`, group: 'Go', run: desk => desk.go(direction, true) },
]

/** Every command once: its name, its place, what it does. Keys stand in keys.ts. */
export const COMMANDS: readonly Command[] = [
  { id: 'edit', name: 'Edit the title', group: 'Type and build', menu: true, changes: true, run: desk => desk.edit() },
  { id: 'sibling-after', name: 'New topic after', group: 'Type and build', menu: true, changes: true, run: desk => desk.addSibling('after') },
  { id: 'sibling-before', name: 'New topic before', group: 'Type and build', menu: true, changes: true, run: desk => desk.addSibling('before') },
  { id: 'child', name: 'New topic under', group: 'Type and build', menu: true, changes: true, run: desk => desk.addChild() },
  { id: 'wrap', name: 'New parent around the selection', group: 'Type and build', menu: true, changes: true, run: desk => desk.wrap() },
  { id: 'insert', name: 'New topic between this and its children', group: 'Type and build', menu: true, changes: true, run: desk => desk.insertBetween() },
  { id: 'remove', name: 'Remove the branch', group: 'Type and build', menu: true, changes: true, run: desk => desk.remove() },
  { id: 'undo', name: 'Undo', group: 'Type and build', changes: true, run: desk => desk.undo() },
  { id: 'redo', name: 'Redo', group: 'Type and build', changes: true, run: desk => desk.redo() },
  { id: 'move-up', name: 'Move up', group: 'Move', menu: true, changes: true, run: desk => desk.move('up') },
  { id: 'move-down', name: 'Move down', group: 'Move', menu: true, changes: true, run: desk => desk.move('down') },
  { id: 'move-out', name: 'Move one level out', group: 'Move', menu: true, changes: true, run: desk => desk.move('out') },
  { id: 'move-in', name: 'Move one level in', group: 'Move', menu: true, changes: true, run: desk => desk.move('in') },
  ...go('up'), ...go('down'), ...go('left'), ...go('right'),
  { id: 'first', name: 'Go to the first sibling', group: 'Go', run: desk => desk.goEnd('first') },
  { id: 'last', name: 'Go to the last sibling', group: 'Go', run: desk => desk.goEnd('last') },
  { id: 'centre', name: 'Go to the centre', group: 'Go', run: desk => desk.visit(desk.tree.centre) },
  { id: 'siblings', name: 'Select all siblings', group: 'Go', run: desk => desk.selectSiblings() },
  { id: 'find', name: 'Find', group: 'Go', run: (_, house) => house.open('everything') },
  { id: 'fold', name: 'Fold or unfold', group: 'See', menu: true, run: desk => desk.toggleFold() },
  depth(1), depth(2), depth(3), depth(4), depth(5), depth(6), depth(null),
  { id: 'fit', name: 'Fit the whole tree in view', group: 'See', run: (_, house) => house.fit() },
  { id: 'zoom-in', name: 'Zoom in', group: 'See', run: (_, house) => house.zoom(1.25) },
  { id: 'zoom-out', name: 'Zoom out', group: 'See', run: (_, house) => house.zoom(0.8) },
  { id: 'zoom-whole', name: 'Zoom to 100 %', group: 'See', run: (_, house) => house.zoom('whole') },
  { id: 'switch-view', name: 'Switch between canvas and outline', group: 'See', run: (desk) => { desk.view.value = desk.view.value === 'canvas' ? 'outline' : 'canvas' } },
  { id: 'sheet', name: 'Show or hide the side sheet', group: 'See', run: (desk) => { desk.sheetOpen.value = !desk.sheetOpen.value } },
  { id: 'theme', name: 'Light or dusk', group: 'See', run: (_, house) => house.toggleTheme() },
  { id: 'mark', name: 'Markers', group: 'Mark and plan', menu: true, changes: true, run: (_, house) => house.open('markers') },
  { id: 'done', name: 'Done or not done', group: 'Mark and plan', menu: true, changes: true, run: desk => desk.toggleDone() },
  { id: 'task', name: 'Task details', group: 'Mark and plan', menu: true, run: (_, house) => house.into('task') },
  { id: 'note', name: 'Note', group: 'Mark and plan', menu: true, run: (_, house) => house.into('note') },
  { id: 'everything', name: 'Everything box', group: 'General', run: (_, house) => house.open('everything') },
  { id: 'keys', name: 'List of keys', group: 'General', run: (_, house) => house.open('keys') },
  { id: 'share', name: 'Share', group: 'General', run: (_, house) => house.open('share') },
]

const byId = new Map(COMMANDS.map(command => [command.id, command]))

export function commandOf(id: string): Command | undefined {
  return byId.get(id)
}
