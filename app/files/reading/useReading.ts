import { contentsKindOf, type FileContents } from '#core/formats/contents'
import {
  itemsOfPassages,
  type Passage,
  passagesOfBlocks,
  passagesOfSlides,
  passagesOfText,
  usedPassages,
} from '#core/formats/passages'
import { type Attachment, lastChild, passageAddress, plantAt, shorten, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { addressOf, tellOpened } from '../opening'
import { canRead } from './readable'

/** A document of the tree that can be read beside it, and the topic it hangs on. */
export interface Readable {
  readonly topic: TopicId
  readonly file: Attachment
}

/** What was read last, for when the panel is opened again and nothing else is meant. */
export const readBefore = new WeakMap<Desk, Readable>()

/** The document beside the tree: its passages, which of them were used, and what topics are made of them. */
export function useReading(desk: Desk) {
  const passages = shallowRef<readonly Passage[]>([])
  const said = ref('')
  const trouble = ref('')
  let stop: AbortController | null = null

  const documents = computed<readonly Readable[]>(() => {
    void desk.lateTick.value
    const found: Readable[] = []
    for (const topic of desk.tree.topics.values())
      for (const file of topic.files) if (canRead(file)) found.push({ topic: topic.id, file })
    return found
  })
  const used = computed(() => {
    void desk.lateTick.value
    const file = desk.reading.value?.file.file
    return file ? usedPassages(desk.tree, file) : new Set<number>()
  })

  async function read(file: Attachment, signal: AbortSignal): Promise<readonly Passage[]> {
    const address = addressOf(desk, file.file)
    if (file.type === 'application/pdf')
      return (await import('./pdf-passages')).passagesOfPdf(address, words => (said.value = words), signal)
    const kind = contentsKindOf(file)
    if (kind === null) return passagesOfText(await callApi<string>(address, { responseType: 'text', signal }))
    const contents = await callApi<FileContents>(`${address}/contents?name=${encodeURIComponent(file.name)}`, {
      signal,
    })
    return contents.kind === 'document'
      ? passagesOfBlocks(contents.blocks)
      : contents.kind === 'slides'
        ? passagesOfSlides(contents.slides)
        : []
  }
  async function open(file: Attachment): Promise<void> {
    stop?.abort()
    const { signal } = (stop = new AbortController())
    passages.value = []
    trouble.value = ''
    said.value = 'Opening …'
    tellOpened(desk, file.file)
    try {
      const found = await read(file, signal)
      if (signal.aborted) return
      passages.value = found
      if (found.length === 0) trouble.value = 'There are no words in this document.'
    } catch (error) {
      if (signal.aborted) return
      trouble.value = error instanceof ApiError ? error.message : 'This document can’t be read here.'
    } finally {
      if (!signal.aborted) said.value = ''
    }
  }
  watch(
    () => desk.reading.value?.file.file,
    () => {
      if (desk.reading.value) void open(desk.reading.value.file)
    },
    { immediate: true },
  )
  onScopeDispose(() => stop?.abort())

  /** Makes topics of passages: under the one that has the focus, or in the tray. How many it were; 0 where it can't be. */
  function take(chosen: readonly number[], tray: boolean): number {
    const file = desk.reading.value?.file
    if (!file || chosen.length === 0 || !desk.guard()) return 0
    const items = itemsOfPassages(passages.value, new Set(chosen), ({ at, text }) => ({
      id: newId(),
      url: passageAddress(file.file, at),
      title: shorten(`${file.name}: ${text}`, 120),
    }))
    const under = desk.focus.value
    const step = tray
      ? plantAt(
          desk.tree,
          items.map(item => ({ ...item, details: { ...item.details, tray: true } })),
          { parent: null, index: Infinity },
          newId,
        )
      : plantAt(desk.tree, items, lastChild(desk.tree, under), newId)
    if (!desk.run(step)) return 0
    const where = tray ? 'in the tray' : `under “${shorten(topicOf(desk.tree, under).title, 40)}”`
    desk.say(
      chosen.length === 1 ? `“${shorten(items[0]!.title, 50)}” is ${where}.` : `${chosen.length} topics are ${where}.`,
      true,
    )
    return chosen.length
  }
  return { passages, documents, used, said, trouble, take }
}
