import { inArray, sql } from 'drizzle-orm'
import { cut } from '#core/tree'
import { addDays, dayInWords, isoDay } from '#core/schedule/days'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { reminders, users } from '../database/schema'
import { sendLetter } from '../letters/send'
import { sectionsDueOn } from '../meetings/due-sections'
import { dueOn, type OpenTask } from './tasks'
import { log } from '../log'

/*
 * Letters a day before something is due (a task, or a section to fill in) and on the day, once each. That one was
 * written is a row of its own, stored with the letter, so neither a restart nor another process writes it again; a task
 * that gets another day is another matter.
 */

const EVERY_MS = 10 * 60_000

type Owed = OpenTask & { readonly userId: string }

/** Writes what is to be written on `today` (ISO 8601). Returns how many letters that were. */
export async function remind(today: string): Promise<number> {
  const tomorrow = addDays(today, 1)
  const byPerson = new Map<string, Owed[]>()
  for (const task of [...(await dueOn([today, tomorrow])), ...(await sectionsDueOn([today, tomorrow], today))])
    byPerson.set(`${task.userId} ${task.due}`, [...(byPerson.get(`${task.userId} ${task.due}`) ?? []), task])
  if (byPerson.size === 0) return 0
  const ids = [...new Set([...byPerson.values()].map(tasks => tasks[0]!.userId))]
  const mails = new Map(
    (await database().select({ id: users.id, email: users.email }).from(users).where(inArray(users.id, ids))).map(
      row => [row.id, row.email],
    ),
  )
  let written = 0
  for (const tasks of byPerson.values()) {
    const { userId, due } = tasks[0]!
    const to = mails.get(userId)
    if (!to || !due) continue
    await inTransaction(async tx => {
      const fresh: Owed[] = []
      for (const task of tasks) {
        const [result] = (await tx.execute(
          sql`insert ignore into ${reminders} (tree_id, topic_id, user_id, due, on_day) values (${task.treeId}, ${task.id}, ${userId}, ${due}, ${due === today})`,
        )) as unknown as [{ affectedRows: number }]
        if (result.affectedRows === 1) fresh.push(task)
      }
      if (fresh.length === 0) return
      written++
      await sendLetter(letterFor(to, fresh, due, due === today), tx)
    })
  }
  return written
}

function letterFor(
  to: string,
  tasks: readonly Owed[],
  due: string,
  isToday: boolean,
): Parameters<typeof sendLetter>[0] {
  const when = isToday ? 'today' : 'tomorrow'
  const [first] = tasks
  const line = ({ title, tree, time }: Owed): string =>
    `${time === null ? '' : `${time} `}${title || 'untitled'} (${tree || 'untitled'})`
  return {
    to,
    subject:
      tasks.length === 1
        ? `Due ${when}: ${cut(first!.title || 'untitled', 200)}`
        : `Due ${when}: ${tasks.length} tasks`,
    body: `Due ${when}, ${dayInWords(due)}:\n\n${tasks.map(line).join('\n')}`,
    link: tasks.length === 1 ? `/trees/${first!.treeId}?topic=${first!.id}` : '/work',
  }
}

let timer: NodeJS.Timeout | undefined

/** Looks now and every ten minutes from then on. The day is the one where the server stands. */
export function startReminding(): void {
  const look = (): void => {
    remind(isoDay(new Date())).catch((error: unknown) => log.error({ error }, 'reminders wait for the next round'))
  }
  look()
  timer = setInterval(look, EVERY_MS)
  timer.unref()
}

export function stopReminding(): void {
  clearInterval(timer)
}
