import PostalMime from 'postal-mime'

/** How the Message-ID of a letter begins that went out from here: its place in the queue. */
const OURS = /<([\w-]{16})\.letter@[^>\s]+>/i

/**
 * What a letter says of one of ours that couldn't be delivered: which, and the status code (RFC 3463) as the mail server of the address
 * gave it. Null for any other letter, and for a report of what is only late or was delivered (RFC 3464).
 *
 * @param {string | Uint8Array} letter a letter as it came, with its headers (RFC 5322)
 * @returns {Promise<{ id: string, status: string } | null>}
 */
export async function readReport(letter) {
  const { attachments } = await PostalMime.parse(letter, { attachmentEncoding: 'utf8' })
  const part = (/** @type {RegExp} */ type) =>
    attachments.filter(one => type.test(one.mimeType)).map(one => String(one.content))
  // Its fields stand in groups, one for the letter and one for each address; a line that begins with a space goes on.
  const groups = part(/^message\/(?:global-)?delivery-status$/i)
    .join('\n\n')
    .replace(/\r?\n[ \t]+/g, ' ')
    .split(/\r?\n\s*\r?\n/)
  const field = (/** @type {string} */ group, /** @type {string} */ name) =>
    new RegExp(`^${name}:[ \\t]*(.+?)[ \\t]*$`, 'im').exec(group)?.[1] ?? ''
  const failed = groups.find(group => /^failed\b/i.test(field(group, 'Action')))
  if (failed === undefined) return null
  const [, id] = OURS.exec(part(/^(?:message\/(?:global|rfc822)|text\/rfc822-headers)(?:-headers)?$/i).join('\n')) ?? []
  if (id === undefined) return null
  return { id, status: /^\d\.\d{1,3}\.\d{1,3}/.exec(field(failed, 'Status'))?.[0] ?? '5.0.0' }
}
