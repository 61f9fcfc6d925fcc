import type { MadeTold } from '#core/contract'
import type { Choice } from '#core/handing/choice'
import { fetchFile, saveFile } from './making'

/** How often is looked whether what is being made is there, ms. */
const EVERY_MS = 1500

/** What was made of a tree within a day, and what is being made of it meanwhile. */
export function useMade(treeId: string, visible: Readonly<Ref<boolean>>) {
  const made = shallowRef<readonly MadeTold[]>([])
  const { wrong, attempt } = useAttempt()
  const path = `/api/trees/${treeId}/made`
  let timer = 0

  async function look(): Promise<void> {
    clearTimeout(timer)
    made.value = await callApi<MadeTold[]>(path).catch(() => made.value)
    if (visible.value && made.value.some(({ state }) => state === 'making')) timer = window.setTimeout(look, EVERY_MS)
  }
  watch(
    visible,
    now => {
      if (now) void look()
    },
    { immediate: true },
  )
  onBeforeUnmount(() => clearTimeout(timer))

  return {
    made,
    wrong,
    /** Has it made without being waited for, and says so by letter. True when it has begun. */
    async begin(choice: Choice): Promise<boolean> {
      let begun = false
      await attempt(async () => {
        await callApi(path, { method: 'POST', body: { ...choice, today: today(), zone: ownZone(), letter: true } })
        begun = true
      })
      await look()
      return begun
    },
    async fetch(id: string): Promise<void> {
      await attempt(async () => saveFile(await fetchFile(`${path}/${id}`)))
      await look()
    },
    async drop(id: string): Promise<void> {
      await attempt(() => callApi(`${path}/${id}`, { method: 'DELETE' }))
      await look()
    },
  }
}
