import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { unwatchTopic } from '../../../../telling/watching'

export default answer(OPERATIONS.unwatchTopic, ({ params, account }) =>
  unwatchTopic(account.id, params.id, params.topic),
)
