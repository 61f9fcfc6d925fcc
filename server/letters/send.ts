import { nanoid } from 'nanoid'
import { createTransport } from 'nodemailer'
import { database, type Database, type Transaction } from '../database/connect'
import { letters } from '../database/schema'

export interface Letter {
  readonly to: string
  readonly subject: string
  readonly body: string
  /** A path in the app that the letter is about. */
  readonly link?: string
}

/** Keeps a letter in the Letterbox, and sends it too when `SMTP_URL` is set. */
export async function sendLetter(letter: Letter, db: Database | Transaction = database()): Promise<void> {
  await db.insert(letters).values({
    id: nanoid(16), toEmail: letter.to, subject: letter.subject.slice(0, 300), body: letter.body, link: letter.link ?? null, createdAt: new Date(),
  })
  const smtp = useRuntimeConfig().smtpUrl || process.env.SMTP_URL
  if (smtp) {
    createTransport(smtp).sendMail({ from: 'Sun Porch <sun-porch@localhost>', to: letter.to, subject: letter.subject, text: letter.body })
      .catch((error: Error) => console.error('A letter stayed in the Letterbox only:', error.message))
  }
}
