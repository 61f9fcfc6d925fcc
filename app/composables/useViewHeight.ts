/**
 * Keeps the page where it is: what is placed outside of it for a moment, as a box that is about to find its place, lets the
 * document be scrolled by a focus, and then the bars are gone for good.
 */
function stayPut(): void {
  if (window.scrollX !== 0 || window.scrollY !== 0) window.scrollTo(0, 0)
}

/**
 * Keeps the page as high as what can be seen of it: where a keyboard comes up over the page instead of making it lower,
 * what is being typed would else be under it.
 */
export function useViewHeight(): void {
  const seen = window.visualViewport
  const look = (): void => {
    const isCovered = seen !== null && seen.scale === 1 && window.innerHeight - seen.height > 80
    document.documentElement.style.setProperty('--view-height', isCovered ? `${seen.height}px` : '100%')
  }
  onMounted(() => {
    seen?.addEventListener('resize', look)
    window.addEventListener('scroll', stayPut)
  })
  onBeforeUnmount(() => {
    window.removeEventListener('scroll', stayPut)
    seen?.removeEventListener('resize', look)
    document.documentElement.style.removeProperty('--view-height')
  })
}
