import { eq, sql } from 'drizzle-orm'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import {
  ballots,
  comments,
  editTopics,
  edits,
  files,
  guestLinks,
  invitations,
  keptMoments,
  linkedPages,
  linkGuests,
  meetingGuests,
  members,
  openedFiles,
  ownViews,
  readItems,
  reminders,
  sayings,
  snapshots,
  talks,
  tellingMarks,
  tellings,
  threads,
  topicMarkers,
  topicPeople,
  topics,
  treeEpochs,
  trees,
  votes,
  watches,
} from '../database/schema'
import { removeMadeOf } from '../documents/made-store'
import { letGo } from './held'

/** Removes a tree for good, with its log and the files that no other tree has. What its access log says stays. */
export async function removeTree(treeId: string): Promise<void> {
  letGo(treeId)
  await inTransaction(async tx => {
    for (const table of [
      topics,
      topicPeople,
      topicMarkers,
      edits,
      editTopics,
      snapshots,
      files,
      members,
      invitations,
      meetingGuests,
      guestLinks,
      linkGuests,
      linkedPages,
      reminders,
      ownViews,
      keptMoments,
      talks,
      sayings,
      threads,
      comments,
      tellings,
      tellingMarks,
      watches,
      votes,
      ballots,
      readItems,
      openedFiles,
      treeEpochs,
    ])
      await tx.delete(table).where(eq(table.treeId, treeId))
    await removeMadeOf(tx, treeId)
    await tx.delete(trees).where(eq(trees.id, treeId))
  })
  await database().execute(
    sql`delete from file_chunks where id not like 'arriving-%' and not exists (select 1 from files f where f.id = file_chunks.id)`,
  )
}
