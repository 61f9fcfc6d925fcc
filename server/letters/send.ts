import { nanoid } from 'nanoid'
import { createTransport } from 'nodemailer'
import { database, type Database, type Transaction } from '../database/connect'
import { type LetterFile, letters } from '../database/schema'

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
  readonly attachments?: readonly LetterFile[]
}

/** Keeps a letter in the Letterbox, and sends it too when `SMTP_URL` is set. */
export async function sendLetter(letter: Letter, db: Database | Transaction = database()): Promise<void> {
  await db
    .insert(letters)
    .values({
      id: nanoid(16),
      toEmail: letter.to,
      subject: letter.subject.slice(0, 300),
      body: letter.body,
      link: letter.link ?? null,
      fromUser: letter.from ?? null,
      attachments: letter.attachments ?? null,
      createdAt: new Date(),
    })
  const smtp = useRuntimeConfig().smtpUrl || process.env.SMTP_URL
  if (smtp) {
    createTransport(smtp)
      .sendMail({
        from: 'Sun Porch <sun-porch@localhost>',
        to: letter.to,
        subject: letter.subject,
        text: letter.link ? `${letter.body}\n\n${addressOf(letter.link)}` : letter.body,
        ...(letter.html
          ? {
              html: letter.link
                ? letter.html.replace(
                    '</body>',
                    `<p><a href="${addressOf(letter.link)}">Open it in Sun Porch</a></p></body>`,
                  )
                : letter.html,
            }
          : {}),
        attachments: (letter.attachments ?? []).map(({ name, type, text }) => ({
          filename: name,
          contentType: type,
          content: text,
        })),
      })
      .catch((error: Error) => console.error('A letter stayed in the Letterbox only:', error.message))
  }
}

/** A path of the app as somebody outside it can open it. */
function addressOf(path: string): string {
  return new URL(path, process.env.PUBLIC_URL || 'http://localhost:3000').href
}
