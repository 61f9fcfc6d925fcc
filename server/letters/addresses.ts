import { settings } from '../settings'

/** A path of the app as somebody outside it can open it. */
export const outsideAddress = (path: string): string => new URL(path, settings().PUBLIC_URL).href
