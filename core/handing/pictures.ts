import { noteBlocks } from '../formats/note-text'
import type { RootContent } from 'mdast'
import { everyTopic, type Handed } from './handed'

/** Every file of the tree that a document shows: pictures on topics and in notes. */
export function picturesIn({ root }: Handed): string[] {
  const found = new Set<string>()
  for (const topic of everyTopic(root)) {
    if (topic.picture) found.add(topic.picture.file)
    for (const file of picturesOfNote(noteBlocks(topic.note))) found.add(file)
  }
  return [...found]
}

function picturesOfNote(blocks: readonly RootContent[]): string[] {
  return blocks.flatMap(block => {
    if (block.type === 'image') return [block.url]
    return 'children' in block ? picturesOfNote(block.children as RootContent[]) : []
  })
}
