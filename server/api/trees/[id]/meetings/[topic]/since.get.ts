import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { changedSince } from '../../../../../meetings/since'

export default answer(OPERATIONS.changedSinceMeeting, ({ params, version }) =>
  changedSince(params.id, params.topic, version),
)
