import type { Command } from './command'
import { BUILD } from './commands/build'
import { ARRANGE } from './commands/arrange'
import { GO } from './commands/go'
import { DRESS } from './commands/dress'
import { SUBSTANCE } from './commands/substance'
import { MEET } from './commands/meet'
import { PLAN } from './commands/plan'

export type { Box, Command, House, Panel, SheetPart } from './command'

/** Every command once: its name, its place, what it does. Keys stand in keys.ts, a line for the help in command-lines.ts. */
export const COMMANDS: readonly Command[] = [...BUILD, ...ARRANGE, ...GO, ...DRESS, ...SUBSTANCE, ...PLAN, ...MEET]

const byId = new Map(COMMANDS.map(one => [one.id, one]))

export function commandOf(id: string): Command | undefined {
  return byId.get(id)
}
