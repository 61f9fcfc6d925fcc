import { nanoid } from 'nanoid'
import { cut } from '#core/tree'
import { database, type Database, type Transaction } from '../database/connect'
import { type LetterFile, letters } from '../database/schema'
import { Fault } from '../access/fault'
import { spend } from '../access/tries'
import { settings } from '../settings'
import { outsideAddress } from './addresses'
import { leaveInOutbox } from './outbox'
import { isStopped, stopAddress } from './stop'
import { enqueue, type Mail } from './queue'

export interface Letter {
  readonly to: string
  readonly subject: string
  readonly body: string
  /** The same for mail programs that show HTML. */
  readonly html?: string
  /** A path in the app that the letter is about. */
  readonly link?: string
  /** The id of whoever sends it; they find it among what they sent. */
  readonly from?: string
  /** Whose doing it is, where it isn't among what they sent. */
  readonly by?: string
  readonly attachments?: readonly LetterFile[]
  /** The tree that it's about, where it's counted among that tree's letters. */
  readonly tree?: string
  /**
   * A letter about the account itself is for whoever reads that address's mail, and nobody else: it's never shown in the app, and
   * can't be stopped.
   */
  readonly about?: 'account'
}

const A_DAY = 86_400

async function mustBeWithin({ from, by = from, tree }: Letter): Promise<void> {
  const { MAIL_PER_PERSON, MAIL_PER_TREE } = settings()
  if (
    (by !== undefined && !(await spend('letters by', by, MAIL_PER_PERSON, A_DAY))) ||
    (tree !== undefined && !(await spend('letters about', tree, MAIL_PER_TREE, A_DAY)))
  )
    throw new Fault(429, 'letters', 'So many letters have been sent today that no more go out until tomorrow.')
}

/**
 * Keeps a letter in the Letterbox, and sends it too where there is a mail server. Throws `letters` when its sender, or the tree,
 * has sent as many as one may in a day.
 */
export async function sendLetter(letter: Letter, db: Database | Transaction = database()): Promise<void> {
  await mustBeWithin(letter)
  if (letter.about !== 'account')
    await db
      .insert(letters)
      .values({
        id: nanoid(16),
        toEmail: letter.to,
        subject: cut(letter.subject, 300),
        body: letter.body,
        link: letter.link ?? null,
        fromUser: letter.from ?? null,
        attachments: letter.attachments ?? null,
        createdAt: new Date(),
      })
  if (settings().SMTP_URL) {
    if (letter.about === 'account' || !(await isStopped(letter.to)))
      await enqueue(mailOf(letter), letter.from ?? letter.by ?? null, db)
  } else if (letter.about === 'account') await leaveInOutbox(mailOf(letter))
}

function mailOf(letter: Letter): Mail {
  const link = letter.link && outsideAddress(letter.link)
  const stop = letter.about === 'account' ? null : stopAddress(letter.to)
  const foot = stop ? `\n\n—\nNo more letters from Sun Porch: ${stop.page}` : ''
  const { MAIL_FROM, MAIL_REPLY_TO } = settings()
  return {
    from: MAIL_FROM,
    ...(MAIL_REPLY_TO ? { replyTo: MAIL_REPLY_TO } : {}),
    to: letter.to,
    subject: letter.subject,
    text: (link ? `${letter.body}\n\n${link}` : letter.body) + foot,
    ...(letter.html
      ? {
          html: letter.html.replace(
            '</body>',
            `${link ? `<p><a href="${link}">Open it in Sun Porch</a></p>` : ''}${stop ? `<p><small><a href="${stop.page}">No more letters from Sun Porch</a></small></p>` : ''}</body>`,
          ),
        }
      : {}),
    // RFC 2369 and RFC 8058: mail programs offer to stop them with one press.
    headers: stop
      ? { 'List-Unsubscribe': `<${stop.post}>`, 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' }
      : {},
    attachments: (letter.attachments ?? []).map(({ name, type, text, packed }) => ({
      filename: name,
      contentType: type,
      content: text,
      ...(packed ? { encoding: 'base64' } : {}),
    })),
  }
}
