import { useLocalStorage } from '@vueuse/core'
import type { Ref } from 'vue'
import type { z } from 'zod'

/**
 * How somebody looks at a tree, kept in this browser. What can't be read, or isn't what it should be, is as if nothing had been
 * chosen; without room it lasts as long as the page. Another tab has its own.
 */
export function keptShape<T extends object>(key: string, schema: z.ZodType<T>, blank: T): Ref<T> {
  return useLocalStorage<T>(key, blank, {
    shallow: true,
    writeDefaults: false,
    listenToStorageChanges: false,
    onError() {},
    serializer: {
      read: text => schema.safeParse(JSON.parse(text)).data ?? blank,
      write: shape => JSON.stringify(shape),
    },
  })
}
