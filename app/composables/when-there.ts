import { wishNow } from '~/focus/typeahead'

const LONGEST_MS = 5000

/**
 * Does something with an element below `root` as soon as it's there; nothing where it doesn't come, or where another field
 * has been asked for meanwhile.
 */
export function whenBelow(root: HTMLElement, selector: string, then: (element: HTMLElement) => void): void {
  const look = (): boolean => {
    const found = root.querySelector<HTMLElement>(selector)
    if (found) then(found)
    return found !== null
  }
  if (look()) return
  const asked = wishNow()
  const watcher = new MutationObserver(() => {
    if (asked !== wishNow() || look()) watcher.disconnect()
  })
  watcher.observe(root, { childList: true, subtree: true })
  setTimeout(() => watcher.disconnect(), LONGEST_MS)
}
