import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { whenLeft } from '../../../../access/left'
import { inTransaction } from '../../../../database/transaction'
import { makeFor } from '../../../../documents/make-for'
import { sendLetter } from '../../../../letters/send'

/** What one letter carries, and all of one sending together: they are kept until they are delivered. */
const MOST_BYTES = 8_000_000
const MOST_TOGETHER = 40_000_000

/** A file made of the tree, by letter to each address. All of them go, or what is wrong is said before the first. */
export default answer(OPERATIONS.mailHandOut, async ({ event, params, body, account, version, epoch }) => {
  const { today, zone, to, subject, words, ...choice } = body
  const addresses = [...new Set(to.map(each => each.toLowerCase()))]
  const made = await makeFor({ treeId: params.id, account, version, epoch, choice, today, zone }, whenLeft(event))
  const size = made.bytes.byteLength
  if (size > MOST_BYTES || size * addresses.length > MOST_TOGETHER)
    throw new Fault(
      413,
      'too-large',
      `“${made.name}” has ${(size / 1_000_000).toFixed(1)} MB: too much for ${addresses.length === 1 ? 'a letter' : `${addresses.length} letters`}. Nobody was written to. Give a link instead, or send less of it.`,
    )
  const file = {
    name: made.name,
    type: made.type,
    text: Buffer.from(made.bytes).toString('base64'),
    packed: true,
  } as const
  await inTransaction(async tx => {
    for (const address of addresses)
      await sendLetter(
        {
          to: address,
          from: account.id,
          tree: params.id,
          subject,
          body: words || `${account.name} sends you “${made.name}”.`,
          attachments: [file],
        },
        tx,
      )
  })
  return { letters: addresses.length, name: made.name, size }
})
