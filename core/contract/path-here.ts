/** A path of this app, as an address gave it; that of the first page for anything else. */
export const pathHere = (path: unknown): string =>
  typeof path === 'string' && /^\/(?![/\\])/.test(path) && !/[\r\n\t]/.test(path) ? path : '/'
