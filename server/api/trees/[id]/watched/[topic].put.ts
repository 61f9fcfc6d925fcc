import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { watchTopic } from '../../../../telling/watching'

export default answer(OPERATIONS.watchTopic, ({ params, account }) => watchTopic(account.id, params.id, params.topic))
