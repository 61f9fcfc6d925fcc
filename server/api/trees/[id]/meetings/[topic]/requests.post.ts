import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { requestSections } from '../../../../../meetings/requests'

export default answer(OPERATIONS.requestSections, ({ params, version, body, account }) =>
  requestSections(params.id, params.topic, version, account, body.by),
)
