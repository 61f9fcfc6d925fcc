/** Events of the window. The server doesn't know any more who asks. */
export const SIGNED_OUT = 'signed-out'
/** Somebody else has signed in in this browser. */
export const SOMEBODY_ELSE = 'somebody-else'
