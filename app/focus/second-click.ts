const CONTROL = 'a[href], button, input, summary, [role="button"], [role="menuitem"], [role="option"]'

/** What the last single click was on. */
let first: Element | null = null

/** “Remove” of “Remove the line Lift”: what a control does, whatever it does it to. */
const actOf = (control: Element): string =>
  /^\S*/.exec((control.getAttribute('aria-label') ?? control.textContent ?? '').trim())![0]

/**
 * A click can take away the row that it was on, and the next one comes under the pointer. The second click of a double one is still meant
 * for the first, so it doesn't do the same to the next. The browser counts clicks (`detail`): a hand that moved or waited begins anew. A
 * control that does something else is what a quick hand knew would come there, and is clicked.
 */
function secondClick(event: MouseEvent): void {
  const control = event.target instanceof Element ? event.target.closest(CONTROL) : null
  if (event.detail < 2) first = control
  else if (first && control && control !== first && !first.isConnected && actOf(control) === actOf(first)) {
    event.preventDefault()
    event.stopImmediatePropagation()
  }
}

export function listenForSecondClicks(): void {
  window.addEventListener('click', secondClick, true)
}
