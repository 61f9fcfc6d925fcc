import { fold } from '#core/find/text'
import { type Body, mentionsIn, textOf } from '#core/talk/body'

/** A body as a comment's row has it: itself, its words to be searched, and whom it mentions. */
export function wordsOf(body: Body): { body: Body; text: string; mentions: readonly string[] } {
  return { body, text: fold(textOf(body)), mentions: mentionsIn(body).people }
}
