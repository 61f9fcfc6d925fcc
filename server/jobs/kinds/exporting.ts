import { treeToFile } from '../../trees/export'
import type { ExportInput } from '../work'
import { treeOf } from './planning'

/** A tree as a file's text. */
export const exportTree = ({ snapshot, format, people }: ExportInput): ReturnType<typeof treeToFile> =>
  treeToFile(treeOf(snapshot), format, people)
