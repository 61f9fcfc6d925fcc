import { z } from 'zod'

/* The language that words are written in: of the tree, or of a topic alone. For hyphens, the browser's spelling and the voice that reads. */

/** A language by its BCP 47 tag, as far as its form goes: `de`, `pt-BR`, `zh-Hant-TW`. */
export const languageTag = z
  .string()
  .regex(/^[a-z]{2,3}(?:-[A-Za-z\d]{2,8}){0,3}$/)
  .max(35)

/** What a topic's words are written in; null where nobody said. */
export const languageOf = (
  tree: { readonly fields: { readonly language: string | null } },
  topic: { readonly language: string | null },
): string | null => topic.language ?? tree.fields.language
