/*
 * npm run account -- list | lock ADDRESS | unlock ADDRESS | reset ADDRESS | confirm ADDRESS | add ADDRESS NAME | owner TREE ADDRESS
 */
import { createHash, randomBytes } from 'node:crypto'
import { createConnection } from 'mysql2/promise'
import { fail, say } from './machine.mjs'
import { databaseUrl } from './running.mjs'

const [what, ...given] = process.argv.slice(2)
const COMMANDS = {
  async list(db) {
    const [rows] = await db.query('SELECT * FROM users WHERE deleted_at IS NULL ORDER BY created_at')
    for (const one of rows)
      say(
        [
          one.email.padEnd(40),
          one.name.padEnd(30),
          one.created_at.toISOString().slice(0, 10),
          one.locked_at ? 'locked' : one.confirmed_at ? '' : 'not confirmed',
          one.totp_secret ? 'second factor' : '',
          one.operator ? 'operator' : '',
        ]
          .filter(Boolean)
          .join('  '),
      )
    say(`${rows.length} accounts`)
  },
  async lock(db, email) {
    const { id } = await person(db, email)
    await db.query('UPDATE users SET locked_at = UTC_TIMESTAMP(3) WHERE id = ?', [id])
    await db.query('DELETE FROM sessions WHERE user_id = ?', [id])
    say(`${email} is locked: no session, and none can be begun. Open lines end within half a minute.`)
  },
  async unlock(db, email) {
    const { id } = await person(db, email)
    await db.query('UPDATE users SET locked_at = NULL WHERE id = ?', [id])
    say(`${email} can sign in again.`)
  },
  async reset(db, email) {
    const { id } = await person(db, email)
    const token = randomBytes(24).toString('base64url')
    const hash = createHash('sha256').update(token).digest('hex')
    await db.query("DELETE FROM account_links WHERE user_id = ? AND kind = 'reset'", [id])
    await db.query(
      "INSERT INTO account_links (token_hash, user_id, kind, email, until) VALUES (?, ?, 'reset', ?, UTC_TIMESTAMP(3) + INTERVAL 2 HOUR)",
      [hash, id, email],
    )
    const base = process.env.PUBLIC_URL || 'http://localhost:3000'
    say(`A new password is set here, once, within two hours:\n${new URL(`/account/reset/${token}`, base).href}`)
  },
  async confirm(db, email) {
    const { id } = await person(db, email)
    await db.query('UPDATE users SET confirmed_at = UTC_TIMESTAMP(3) WHERE id = ? AND confirmed_at IS NULL', [id])
    say(`The address ${email} counts as confirmed.`)
  },
  async add(db, email, name) {
    const id = randomBytes(12).toString('base64url')
    await db
      .query("INSERT INTO users (id, email, name, password_hash, created_at) VALUES (?, ?, ?, '-', UTC_TIMESTAMP(3))", [
        id,
        email.toLowerCase(),
        name,
      ])
      .catch(error =>
        fail(error.code === 'ER_DUP_ENTRY' ? `There is an account with the address ${email}.` : error.message),
      )
    await COMMANDS.reset(db, email)
  },
  async owner(db, tree, email) {
    const { id } = await person(db, email)
    const [[found]] = await db.query('SELECT title FROM trees WHERE id = ?', [tree])
    if (!found) fail(`There is no tree ${tree}. Its id stands in its address, after /trees/.`)
    await db.query(
      "INSERT INTO members (tree_id, user_id, role) VALUES (?, ?, 'owner') ON DUPLICATE KEY UPDATE role = 'owner'",
      [tree, id],
    )
    await db.query(
      "INSERT INTO access_log (tree_id, at, by_user, what, about) VALUES (?, UTC_TIMESTAMP(3), NULL, 'role', ?)",
      [tree, `${id}: owner`],
    )
    say(`${email} owns “${found.title.slice(0, 80)}” now. Its access log says so.`)
  },
}
const NEEDS = { list: 0, owner: 2, add: 2 }

async function person(db, email) {
  const [[found]] = await db.query('SELECT id FROM users WHERE email = ?', [email.toLowerCase()])
  if (!found) fail(`There is no account with the address ${email}.`)
  return found
}

const run = Object.hasOwn(COMMANDS, what ?? '') ? COMMANDS[what] : undefined
if (!run || given.length !== (NEEDS[what] ?? 1))
  fail(
    'npm run account -- list | lock ADDRESS | unlock ADDRESS | reset ADDRESS | confirm ADDRESS | add ADDRESS NAME | owner TREE ADDRESS',
  )
const db = await createConnection({ uri: databaseUrl(), timezone: 'Z' })
await run(db, ...given)
await db.end()
