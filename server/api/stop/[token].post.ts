import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { stopLetters } from '../../letters/stop'

// What a mail program posts is a form; the link alone says what is meant.
export default answer(OPERATIONS.stopLetters, ({ params }) => stopLetters(params.token), 0)
