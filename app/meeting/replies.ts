import type { Answer } from '#core/tree'
import type { Desk } from '~/desk/desk'

/* Answers to invitations that arrive as calendar files (RFC 5546, REPLY). */

export const ANSWER_WORDS: Record<Answer, string> = {
  'needs-action': 'no answer yet',
  accepted: 'comes',
  declined: 'doesn’t come',
  tentative: 'perhaps',
  delegated: 'sends somebody else',
}

/** As large as a calendar file with an answer may be; the server says the same. */
const MOST_BYTES = 500_000

/** Whether a file that was dropped on the tree is an answer, not something to hang on a topic. */
export async function isReply(file: File): Promise<boolean> {
  return (
    (file.type === 'text/calendar' || /\.ics$/i.test(file.name)) &&
    file.size <= MOST_BYTES &&
    /^METHOD:REPLY\s*$/im.test(await file.text())
  )
}

/** Takes the answers in a file, and says what became of them. */
export async function takeReply(desk: Desk, file: File): Promise<void> {
  if (!desk.guard()) return
  if (file.size > MOST_BYTES) {
    desk.say('This calendar file is larger than half a megabyte. Nothing was changed.')
    return
  }
  try {
    const taken = await callApi<{ name: string; answer: Answer }[]>(`/api/trees/${desk.session.treeId}/replies`, {
      method: 'POST',
      body: { text: await file.text() },
    })
    desk.say(taken.map(one => `${one.name}: ${ANSWER_WORDS[one.answer]}.`).join(' '))
  } catch (error) {
    desk.say((error as Error).message)
  }
}
