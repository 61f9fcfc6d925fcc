import { createHash, createHmac, timingSafeEqual } from 'node:crypto'

/** What is stored of a secret that nobody can guess. */
export const hashed = (secret: string): string => createHash('sha256').update(secret).digest('hex')

/** A word that only this house can have given, for one purpose. */
export function sealed(purpose: string, text: string): string {
  const key = process.env.NUXT_SESSION_PASSWORD ?? ''
  return createHmac('sha256', key).update(`${purpose}\n${text}`).digest('base64url')
}

/** Whether `seal` is the one that `sealed` gives. */
export function isSealed(purpose: string, text: string, seal: string): boolean {
  const [given, right] = [Buffer.from(seal), Buffer.from(sealed(purpose, text))]
  return given.length === right.length && timingSafeEqual(given, right)
}
