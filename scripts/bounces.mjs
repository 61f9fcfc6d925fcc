/*
 * npm run bounces [-- FILE …]: reads what mail servers wrote about letters of ours that they couldn't deliver, from files or from what is
 * piped in, and tells whoever sent them. Other letters are passed over. Fit to stand behind the address that letters come from.
 */
import { randomBytes } from 'node:crypto'
import { readFile, stat } from 'node:fs/promises'
import { createConnection } from 'mysql2/promise'
import { readReport } from './delivery-report.mjs'
import { fail, say } from './machine.mjs'
import { databaseUrl } from './running.mjs'

const MOST_BYTES = 30 * 2 ** 20

/** What is piped in, as far as a letter may be long. */
async function piped() {
  const pieces = []
  let bytes = 0
  for await (const piece of process.stdin) {
    bytes += piece.length
    if (bytes > MOST_BYTES) fail('This letter is longer than any that could be about one of ours.')
    pieces.push(piece)
  }
  return Buffer.concat(pieces)
}

/** A letter's place in the queue becomes that of one that came back, once, and its sender is written to. */
async function giveBack(db, { id, status }) {
  const why = `the mail server of the address said ${status}`
  await db.beginTransaction()
  const [{ affectedRows }] = await db.query(
    "UPDATE mail_queue SET state = 'returned', why = ? WHERE id = ? AND state = 'sent'",
    [why, id],
  )
  if (affectedRows === 0) {
    await db.rollback()
    return false
  }
  const [[row]] = await db.query(
    'SELECT q.to_email, q.mail, u.email FROM mail_queue q LEFT JOIN users u ON u.id = q.from_user WHERE q.id = ?',
    [id],
  )
  if (row.email) {
    const mail = typeof row.mail === 'string' ? JSON.parse(row.mail) : row.mail
    const subject = String(mail?.subject ?? '')
    const head = Array.from(`Came back: ${subject}`)
    while (head.join('').length > 300) head.pop()
    await db.query(
      'INSERT INTO letters (id, to_email, subject, body, created_at) VALUES (?, ?, ?, ?, UTC_TIMESTAMP(3))',
      [
        randomBytes(12).toString('base64url'),
        row.email,
        head.join(''),
        `Your letter “${subject}” to ${row.to_email} couldn’t be delivered: ${why}. Is the address right?`,
      ],
    )
  }
  await db.commit()
  return true
}

const files = process.argv.slice(2)
for (const file of files)
  if ((await stat(file).catch(() => fail(`There is no file ${file}.`))).size > MOST_BYTES)
    fail(`${file} is longer than any letter that could be about one of ours.`)
const letters = files.length > 0 ? files.map(file => () => readFile(file)) : [piped]
const db = await createConnection({ uri: databaseUrl(), timezone: 'Z' })
let came = 0
for (const letter of letters) {
  const report = await readReport(await letter()).catch(() => null)
  if (report && (await giveBack(db, report))) came++
}
say(came === 1 ? 'One letter came back; whoever sent it is told.' : `${came} letters came back.`)
await db.end()
