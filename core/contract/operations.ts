import { ACCOUNT } from './operations/account'
import { FIGURES } from './operations/figures'
import { GROUPS } from './operations/groups'
import { HANDING } from './operations/handing'
import { LINKS } from './operations/links'
import { LETTERS } from './operations/letters'
import { MEETINGS } from './operations/meetings'
import { MEMBERS } from './operations/members'
import { PAGES } from './operations/pages'
import { PERSON } from './operations/person'
import { PLANNING } from './operations/planning'
import { SHELF } from './operations/shelf'
import { TALK } from './operations/talk'
import { TELLING } from './operations/telling'
import { TREES } from './operations/trees'
import { VOTES } from './operations/votes'

/** Every REST operation. */
export const OPERATIONS = {
  ...PERSON,
  ...ACCOUNT,
  ...TREES,
  ...MEMBERS,
  ...GROUPS,
  ...PAGES,
  ...SHELF,
  ...MEETINGS,
  ...HANDING,
  ...LINKS,
  ...PLANNING,
  ...FIGURES,
  ...LETTERS,
  ...TALK,
  ...TELLING,
  ...VOTES,
} as const
