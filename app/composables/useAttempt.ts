/** Work that may fail: whether it's under way, and what went wrong in words that can be shown. */
export function useAttempt() {
  const busy = ref(false)
  const wrong = ref('')
  async function attempt(work: () => Promise<unknown>): Promise<void> {
    busy.value = true
    wrong.value = ''
    try {
      await work()
    } catch (error) {
      wrong.value = error instanceof Error ? error.message : 'Something went wrong here. Please try again.'
    } finally {
      busy.value = false
    }
  }
  return { busy, wrong, attempt }
}
