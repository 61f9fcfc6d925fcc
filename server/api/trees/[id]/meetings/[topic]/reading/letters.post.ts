import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../../access/answer'
import { remindToRead } from '../../../../../../meetings/reading'

export default answer(OPERATIONS.remindToRead, ({ params, version, body, account }) =>
  remindToRead(params.id, params.topic, body.item, version, account),
)
