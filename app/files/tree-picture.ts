import { Node } from '@tiptap/core'
import { noteFile } from '#core/formats/note-html'
import type { Desk } from '~/desk/desk'
import { addressOf } from './opening'
import type { StoredFile } from './pictures'

/** A picture of the open tree within formatted text. It's kept by its hash, so that a copy of the tree shows its own. */
export const treePicture = (desk: Desk) =>
  Node.create({
    name: 'image',
    group: 'block',
    draggable: true,
    addAttributes: () => ({ src: { default: null }, alt: { default: '' } }),
    parseHTML: () => [
      {
        tag: 'img[src]',
        getAttrs: (element: HTMLElement) => noteFile(element.getAttribute('src') ?? '') !== null && null,
      },
    ],
    renderHTML: ({ HTMLAttributes }) => {
      const file = noteFile(String(HTMLAttributes.src ?? ''))
      return file
        ? ['img', { src: addressOf(desk, file), alt: String(HTMLAttributes.alt ?? '') }]
        : ['span', 'A picture from elsewhere isn’t shown.']
    },
  })

/** Stores a picture with the tree, by the address below it that takes pictures. Returns the node that shows it. Rejects with why not. */
export async function storePicture(desk: Desk, file: File, to: 'pictures' | 'talk/pictures') {
  const stored = await callApi<StoredFile>(`/api/trees/${desk.session.treeId}/${to}`, {
    method: 'POST',
    body: file,
    headers: { 'Content-Type': 'application/octet-stream' },
  })
  return { type: 'image', attrs: { src: stored.id, alt: file.name.replace(/\.\w+$/, '') } }
}

/** The first picture that was pasted or dropped. */
export const pictureIn = (data: DataTransfer | null): File | undefined =>
  [...(data?.files ?? [])].find(file => file.type.startsWith('image/'))
