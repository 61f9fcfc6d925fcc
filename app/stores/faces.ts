import { defineStore } from 'pinia'

/** Who has a picture, and how it's cut, as far as the trees that were opened here tell. */
export const useFaces = defineStore('faces', () => {
  const pictured = reactive(new Set<string>())
  const square = reactive(new Set<string>())
  const put = (set: Set<string>, id: string, is: boolean): void => void (is ? set.add(id) : set.delete(id))
  function hear(
    people: readonly { readonly id: string; readonly picture?: boolean; readonly square?: boolean }[],
  ): void {
    for (const person of people) {
      if (person.picture !== undefined) put(pictured, person.id, person.picture)
      if (person.square !== undefined) put(square, person.id, person.square)
    }
  }
  return { pictured, square, hear }
})
