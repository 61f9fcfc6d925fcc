import { answerFigures, type FiguresQuestion } from '#core/figures/asked'
import { Fault } from '../access/fault'
import { runJob } from '../jobs/runner'
import { todayUtc } from '../schedule/plan-of'
import { readTree } from '../trees/held'

/** Topics up to which figures are worked out here, in some 30 ms; those of larger trees in a thread, so that nobody waits for them. */
const AT_ONCE = 2000

/** What is asked of a tree's figures. Throws `Fault` where there is no such tree, topic or measure. `person`: who asks. */
export async function askFigures(
  id: string,
  version: number,
  epoch: string,
  question: FiguresQuestion,
  person: string,
): Promise<unknown> {
  const item = await readTree(id, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  const { topics, fields } = item.tree
  if (question.whatIf !== null && !fields.whatIfs.some(one => one.id === question.whatIf))
    throw new Fault(404, 'no-what-if', 'There is no such assumption in this tree.')
  if (question.kind === 'try') {
    if (!topics.has(question.topic)) throw new Fault(404, 'no-topic', 'There is no such topic in this tree.')
    if (!fields.measures.some(one => one.id === question.measure))
      throw new Fault(404, 'no-measure', 'There is no such measure in this tree.')
  }
  const today = todayUtc()
  return topics.size > AT_ONCE
    ? runJob('figures', { snapshot: item.snapshotBytes(), today, question }, { person })
    : answerFigures(item.tree, today, question)
}
