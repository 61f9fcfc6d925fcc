/** Gives the keyboard back to the tree that is shown. */
export function focusTree(): void {
  (document.querySelector('[role="tree"]') as HTMLElement | null)?.focus({ preventScroll: true })
}
