import { answerFigures, type FiguresQuestion } from '#core/figures/asked'
import { Fault } from '../access/fault'
import { runJob } from '../jobs/runner'
import { todayOf } from '../schedule/plan-of'
import { readTree } from '../trees/held'
import { momentOf } from '../trees/history'
import { inTurn } from '../trees/in-turn'

/** Topics up to which figures are worked out here, in some 30 ms; those of larger trees in a thread, so that nobody waits for them. */
const AT_ONCE = 2000

/**
 * What is asked of a tree's figures. Throws `Fault` where there is no such tree, topic or measure. `person`: who asks; `moment`: as the
 * tree was after that edit.
 */
export async function askFigures(
  id: string,
  version: number,
  epoch: string,
  question: FiguresQuestion,
  person: string,
  moment?: number,
): Promise<unknown> {
  const item =
    moment === undefined
      ? await readTree(id, version, epoch)
      : await inTurn(person, () => momentOf(id, moment, version))
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const { topics, fields } = item.tree
  if (question.whatIf !== null && !fields.whatIfs.some(one => one.id === question.whatIf))
    throw new Fault(404, 'no-what-if', 'There is no such assumption in this tree.')
  if (question.kind === 'try') {
    if (!topics.has(question.topic)) throw new Fault(404, 'no-topic', 'There is no such topic in this tree.')
    if (!fields.measures.some(one => one.id === question.measure))
      throw new Fault(404, 'no-measure', 'There is no such measure in this tree.')
  }
  const today = todayOf(item.tree)
  return topics.size > AT_ONCE
    ? runJob('figures', { snapshot: item.snapshotBytes(), today, question }, { person })
    : answerFigures(item.tree, today, question)
}
