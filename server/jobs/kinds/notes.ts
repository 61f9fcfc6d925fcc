import { mergeNote, openNote } from '#core/tree/note'
import type { NoteToCheck } from '../work'

/** Whether each of these notes can be joined and opened. */
export const checkNotes = (notes: readonly NoteToCheck[]): boolean[] =>
  notes.map(({ note, updates }) => {
    try {
      openNote(updates.reduce<string | null>((joined, update) => mergeNote(joined, update), note))
      return true
    } catch {
      return false
    }
  })
