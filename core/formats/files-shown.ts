import type { Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import { noteToHtml } from './note-html'

/** Every file that a tree shows or carries: pictures, attachments with what previews them, pictures in notes, templates. */
export function filesShown(tree: Tree): string[] {
  const found = new Set<string>(tree.fields.templates.map(({ file }) => file))
  for (const { picture, files, note } of allTopics(tree)) {
    if (picture) found.add(picture.file)
    for (const { file, preview } of files) {
      found.add(file)
      if (preview) found.add(preview.file)
    }
    noteToHtml(note, file => {
      found.add(file)
      return ''
    })
  }
  return [...found]
}
