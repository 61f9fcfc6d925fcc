import { eq } from 'drizzle-orm'
import sharp from 'sharp'
import { OPERATIONS } from '#core/contract'
import { answer, rawBody } from '../../access/answer'
import { Fault } from '../../access/fault'
import { database } from '../../database/connect'
import { users } from '../../database/schema'

const MOST_BYTES = 8 * 1024 * 1024
const PIXELS = 128

export default answer(
  OPERATIONS.setPicture,
  async ({ event, account }) => {
    const bytes = await rawBody(event, MOST_BYTES)
    // Drawn anew, so that nothing but the picture itself is kept: no place, no camera.
    const drawn = async (): Promise<Buffer> =>
      sharp(bytes, { limitInputPixels: 50_000_000, failOn: 'error' })
        .rotate()
        .resize(PIXELS, PIXELS, { fit: 'cover' })
        .webp({ quality: 85 })
        .toBuffer()
    const picture = await drawn().catch(() => {
      throw new Fault(422, 'no-picture', 'That can’t be read as a picture. PNG, JPEG, WebP and GIF can.')
    })
    await database().update(users).set({ picture }).where(eq(users.id, account.id))
  },
  0,
)
