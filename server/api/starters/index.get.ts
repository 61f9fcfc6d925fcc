import { OPERATIONS } from '#core/contract'
import { STARTERS } from '#core/starters/starters'
import { answer } from '../../access/answer'

export default answer(OPERATIONS.listStarters, () =>
  STARTERS.map(({ id, name, purpose, arrangement, look, lines }) => ({
    id,
    name,
    purpose,
    arrangement,
    look,
    topics: lines.split('\n').length + 1,
  })),
)
