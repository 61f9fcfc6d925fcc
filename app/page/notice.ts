import type { Ref } from 'vue'
import type { Offer } from '~/desk/offer'

export interface Notice {
  readonly words: string
  readonly offer: Offer | null
}

/** Notices: one at a time, longer when it offers something. */
export function useNotice(): {
  notice: Readonly<Ref<Notice | null>>
  notify: (words: string, offer: Offer | null) => void
  dismiss: () => void
} {
  const notice = shallowRef<Notice | null>(null)
  let timer = 0
  const dismiss = (): void => {
    clearTimeout(timer)
    notice.value = null
  }
  return {
    notice,
    dismiss,
    notify: (words, offer) => {
      clearTimeout(timer)
      notice.value = { words, offer }
      timer = window.setTimeout(dismiss, offer ? 9000 : 6000)
    },
  }
}
