/** Events of the window. The server doesn't know any more who asks. */
export const SIGNED_OUT = 'signed-out'
/** A live line was refused; a browser isn't told why. */
export const LINE_REFUSED = 'line-refused'
