/**
 * What the house last said, and what was done to it since, shown before it's answered. What is done goes out one behind another: the
 * steps of a fast hand arrive in their order, and what takes one back comes after it. `inTurn` throws what `send` throws, and then
 * what was shown ahead of it goes.
 */
export function useAhead<T>() {
  const sure = shallowRef<T | null>(null)
  const steps = shallowRef<readonly ((of: T) => T)[]>([])
  const shown = computed(() =>
    sure.value === null ? null : steps.value.reduce<T>((of, step) => step(of), sure.value as T),
  )
  let line: Promise<unknown> = Promise.resolve()
  function inTurn(send: () => Promise<unknown>, step: (of: T) => T = of => of): Promise<unknown> {
    steps.value = [...steps.value, step]
    const over = (): void => {
      steps.value = steps.value.filter(one => one !== step)
    }
    const sent = line.then(send)
    line = sent.then(() => {
      if (sure.value !== null) sure.value = step(sure.value as T)
      over()
    }, over)
    return sent
  }
  return { sure, shown, inTurn, isBusy: () => steps.value.length > 0 }
}
