/** Where a thumb works: a screen that is touched, or a narrow one. */
export const THUMB = '(pointer: coarse), (max-width: 700px)'

/** Whether the screen is narrow, as on a phone. */
export function useNarrow(): Ref<boolean> {
  const query = window.matchMedia('(max-width: 700px)')
  const narrow = ref(query.matches)
  const look = (): void => {
    narrow.value = query.matches
  }
  onMounted(() => query.addEventListener('change', look))
  onBeforeUnmount(() => query.removeEventListener('change', look))
  return narrow
}
