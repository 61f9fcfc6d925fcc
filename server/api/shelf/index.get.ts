import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { runJob } from '../../jobs/runner'

export default answer(OPERATIONS.findOnShelf, ({ query, account }) =>
  runJob('shelf', { words: query.words, language: query.language.slice(0, 2) }, { person: account.id }),
)
