import type { Rect } from '#core/arrange/place'

/** What lies over the tree says so itself. */
const MARK = '[data-over-tree]'

/** Where bars, notices, windows and, on a narrow screen, the sheet lie over an element, px from its upper left corner. */
export function whatLiesOver(box: HTMLElement): Rect[] {
  const { left, top, width, height } = box.getBoundingClientRect()
  return [...document.querySelectorAll(MARK)].flatMap(over => {
    const at = over.getBoundingClientRect()
    const rect = { x: at.left - left, y: at.top - top, width: at.width, height: at.height }
    const isOver = rect.x < width && rect.y < height && rect.x + rect.width > 0 && rect.y + rect.height > 0
    return isOver && rect.width > 0 ? [rect] : []
  })
}

/** Says when something comes over the tree. */
export function useOverlays(came: () => void): void {
  let watcher: MutationObserver | undefined
  onMounted(() => {
    watcher = new MutationObserver(records => {
      const isOver = (node: Node): boolean => node instanceof Element && node.matches(MARK)
      if (records.some(({ addedNodes }) => [...addedNodes].some(isOver))) came()
    })
    const page = document.querySelector('.tree-page')
    if (page) watcher.observe(page, { childList: true, subtree: true })
  })
  onBeforeUnmount(() => watcher?.disconnect())
}
