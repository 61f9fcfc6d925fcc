import type { OwedTask } from '#core/contract'
import { WHEN_NAMES, whenOf, WHENS } from '#core/schedule/when'

interface OwedGroup {
  readonly key: string
  readonly name: string
  readonly late: boolean
  readonly tasks: readonly OwedTask[]
}

export const owedKey = (task: OwedTask): string => `${task.treeId}/${task.id}/${task.person ?? ''}`

/**
 * What one owes as rows in groups, and the selected one of them. A row that changes its group goes elsewhere, and another stands where it
 * was: what is pressed again still means the first. `follow` keeps the selection with a task wherever it goes; `stay` leaves it where the
 * row was; `hold` leaves the row itself where it is too, under the pointer, until `letGo` or another is chosen.
 */
export function useOwedRows(tasks: Ref<readonly OwedTask[]>, by: Ref<'date' | 'tree'>) {
  const held = shallowRef<OwedTask | null>(null)
  const groups = computed<readonly OwedGroup[]>(() => {
    const still = held.value
    if (by.value === 'date') {
      const groupOf = (task: OwedTask) =>
        whenOf(still && owedKey(still) === owedKey(task) ? still.due : task.due, today(), ownLocale())
      return WHENS.map(when => ({
        key: when,
        name: WHEN_NAMES[when],
        late: when === 'late',
        tasks: tasks.value.filter(task => groupOf(task) === when),
      })).filter(group => group.tasks.length > 0)
    }
    const trees = new Map<string, OwedTask[]>()
    for (const task of tasks.value) trees.set(task.treeId, [...(trees.get(task.treeId) ?? []), task])
    return [...trees].map(([key, of]) => ({ key, name: of[0]!.tree || 'untitled', late: false, tasks: of }))
  })
  /** As they stand on the screen, for the keyboard. */
  const rows = computed(() => groups.value.flatMap(group => group.tasks))

  const place = ref(0)
  const followed = ref<string | null>(null)
  const at = computed(() => {
    const found = followed.value === null ? -1 : rows.value.findIndex(task => owedKey(task) === followed.value)
    return found >= 0 ? found : Math.min(place.value, rows.value.length - 1)
  })
  const focused = computed(() => rows.value[at.value] ?? null)
  function stay(): void {
    place.value = Math.max(0, at.value)
    followed.value = null
  }
  function follow(task: OwedTask): void {
    place.value = Math.max(0, rows.value.indexOf(task))
    followed.value = owedKey(task)
  }
  function go(to: number): void {
    const task = rows.value[Math.max(0, Math.min(rows.value.length - 1, to))]
    if (task) follow(task)
  }
  function hold(task: OwedTask): void {
    if (!held.value || owedKey(held.value) !== owedKey(task)) held.value = task
    follow(task)
  }
  function letGo(but?: OwedTask): void {
    if (held.value && (!but || owedKey(but) !== owedKey(held.value))) held.value = null
  }
  /** Nothing moves while a finger is down: what was held goes where it belongs after the click. */
  function choose(task: OwedTask): void {
    letGo(task)
    follow(task)
  }
  return { groups, rows, at, focused, go, stay, follow, choose, hold, letGo }
}
