const CONTROL = 'a[href], button, input, select, summary, [role="button"], [role="menuitem"], [role="option"]'

/** What the last single click was on. */
let first: Element | null = null

/**
 * What a click does can take away what it was on, and something else stands under the pointer then: the next row's cross, say. The second
 * click of a double one is still meant for the first, so it does nothing there. The browser counts clicks (`detail`): a hand that moved
 * or waited begins anew.
 */
function secondClick(event: MouseEvent): void {
  const control = event.target instanceof Element ? event.target.closest(CONTROL) : null
  if (event.detail < 2) first = control
  else if (first && control && control !== first) {
    event.preventDefault()
    event.stopImmediatePropagation()
  }
}

export function listenForSecondClicks(): void {
  window.addEventListener('click', secondClick, true)
}
