import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { nanoid } from 'nanoid'
import { createTransport } from 'nodemailer'
import { log } from '../log'
import { settings } from '../settings'
import type { Mail } from './queue'

/**
 * Stands in for a mail server: a letter becomes a file (RFC 5322) in a folder that whoever runs the app can read. Without such a
 * folder it's lost, and the log says so.
 */
export async function leaveInOutbox(mail: Mail): Promise<void> {
  const folder = settings().OUTBOX_DIR
  if (!folder) {
    log.warn('a letter about an account has nowhere to go: neither SMTP_URL nor OUTBOX_DIR is set')
    return
  }
  const written = await createTransport({ streamTransport: true, buffer: true }).sendMail(mail)
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const file = join(folder, `${new Date().toISOString().replaceAll(':', '-')}-${nanoid(6)}.eml`)
  await writeFile(file, written.message as Buffer, { mode: 0o600 })
  log.info({ file }, 'no mail server is set: a letter about an account was written to a file')
}
