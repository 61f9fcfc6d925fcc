import sharp, { type Metadata } from 'sharp'
import { Fault } from '../access/fault'

/** Larger than this on its longer side, a picture is made smaller. Pixels. */
const LONGEST = 2000
/** A picture that unpacks to more than this is refused before it is unpacked. */
const MOST_PIXELS = 50_000_000

/**
 * Draws a picture anew: what comes out holds nothing but pixels, whatever the name or the first bytes said.
 * Refuses what isn't a picture, and one that would unpack to too much.
 */
export async function redraw(data: Buffer): Promise<{ data: Buffer; type: string; width: number; height: number }> {
  const refuse = (why: string): never => {
    throw new Fault(422, 'no-picture', `${why} Nothing was changed.`)
  }
  if (data.length === 0) refuse('There was nothing in this file.')
  let meta: Metadata
  try {
    meta = await sharp(data, { limitInputPixels: MOST_PIXELS }).metadata()
  } catch (error) {
    return refuse(
      /pixel limit/i.test(String(error))
        ? 'This picture would unpack to more than 50 million pixels.'
        : 'This isn’t a picture that can be read: PNG, JPEG, WebP, GIF, AVIF and TIFF are.',
    )
  }
  if (meta.format === 'svg')
    refuse('SVG files can hold programs, so they aren’t taken as pictures. PNG, JPEG, WebP, GIF, AVIF and TIFF are.')
  try {
    const isPhoto = meta.format === 'jpeg'
    const pipe = sharp(data, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
      .rotate()
      .resize({ width: LONGEST, height: LONGEST, fit: 'inside', withoutEnlargement: true })
    const out = await (isPhoto ? pipe.jpeg({ quality: 84 }) : pipe.webp({ quality: 88 })).toBuffer({
      resolveWithObject: true,
    })
    return {
      data: out.data,
      type: isPhoto ? 'image/jpeg' : 'image/webp',
      width: out.info.width,
      height: out.info.height,
    }
  } catch {
    return refuse('This picture is broken: it begins like one and doesn’t go on like one.')
  }
}
