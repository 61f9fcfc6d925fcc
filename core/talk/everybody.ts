/** Whom a mention of everybody who has a role in the tree names. By itself, since filters need it and no body. */
export const ALL = 'all'
