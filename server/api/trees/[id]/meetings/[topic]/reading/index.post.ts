import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../../access/answer'
import { keepReading } from '../../../../../../meetings/reading'

export default answer(OPERATIONS.readItem, ({ params, version, body, account }) =>
  keepReading(params.id, params.topic, body.item, version, account.id),
)
