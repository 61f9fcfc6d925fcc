import { ACCOUNT } from './operations/account'
import { LETTERS } from './operations/letters'
import { MEETINGS } from './operations/meetings'
import { MEMBERS } from './operations/members'
import { PERSON } from './operations/person'
import { TALK } from './operations/talk'
import { TREES } from './operations/trees'

/** Every REST operation. */
export const OPERATIONS = { ...PERSON, ...ACCOUNT, ...TREES, ...MEMBERS, ...MEETINGS, ...LETTERS, ...TALK } as const
