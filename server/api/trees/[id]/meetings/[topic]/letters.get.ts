import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { previewMinutes } from '../../../../../meetings/minutes'

export default answer(OPERATIONS.previewMinutes, ({ params, version, account }) =>
  previewMinutes(params.id, params.topic, version, account),
)
