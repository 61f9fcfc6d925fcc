/*
 * How a tree's meetings are prepared, until somebody says otherwise: how many things one carries, and the parts that a
 * section can be laid out with. The wordings are our own.
 */

/** Things that must be settled in one meeting, before it's suggested to leave the rest to a later one. */
export const FIRST_MUSTS = 4

/** The parts of a section. */
export const FIRST_PATTERNS = [
  ['Where it stands', 'What worries us', 'What we propose'],
  ['What we know', 'What we could do', 'What we should do'],
  ['Since last time', 'Until next time', 'What is stuck'],
  ['What is new', 'What is asked'],
]
