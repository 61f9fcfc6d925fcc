import type { NewsEdit } from '#core/contract'

/** The account that an edit was done by, or for. */
export const doerOf = (edit: NewsEdit): string => edit.behalf ?? edit.user
