import type { H3Event } from 'h3'
import { saveAs } from '../files/disposition'
import type { Made } from './hand-out'

/** A file that was made, to be saved. */
export function sendMade(event: H3Event, { name, type, bytes }: Made): Buffer {
  setResponseHeaders(event, {
    'content-type': /^text\//.test(type) ? `${type}; charset=utf-8` : type,
    'content-disposition': saveAs(name),
    // A page or drawing that somebody opens from here runs nothing and reaches nothing of this house.
    'content-security-policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'; sandbox",
  })
  return Buffer.from(bytes)
}
