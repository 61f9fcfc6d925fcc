import { type Comparison, OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { runJob } from '../../../jobs/runner'
import { gather } from '../../../trees/compare'
import { inTurn } from '../../../trees/in-turn'
import { peopleOf } from '../../../trees/store'

/** Files may be larger than a message. */
const MOST = 16 * 1024 * 1024

export default answer(
  OPERATIONS.compareTree,
  ({ params, body, account, role, version, epoch }) =>
    inTurn(account.id, async (): Promise<Comparison> => {
      const asking = { treeId: params.id, version, epoch, person: account.id }
      const { sides, number, other } = await gather(asking, body.with, body.here)
      const { pieces, differences } = await runJob('compare', sides, { person: account.id })
      // A file may name anybody: only people of trees that one may see have names here.
      const people = await Promise.all([...new Set([params.id, other.tree ?? params.id])].map(peopleOf))
      const names = Object.fromEntries(people.flat().map(({ id, name }) => [id, name]))
      return { sides, number, version, role, other, pieces, differences, names }
    }),
  MOST,
)
