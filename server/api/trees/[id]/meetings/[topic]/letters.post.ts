import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { mailMinutes } from '../../../../../meetings/minutes'

export default answer(OPERATIONS.mailMinutes, ({ params, version, account }) =>
  mailMinutes(params.id, params.topic, version, account),
)
