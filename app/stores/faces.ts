import { defineStore } from 'pinia'

/** Who has a picture, as far as the trees that were opened here tell. */
export const useFaces = defineStore('faces', () => {
  const pictured = reactive(new Set<string>())
  function hear(people: readonly { readonly id: string; readonly picture?: boolean }[]): void {
    for (const { id, picture } of people) {
      if (picture) pictured.add(id)
      else if (picture === false) pictured.delete(id)
    }
  }
  return { pictured, hear }
})
