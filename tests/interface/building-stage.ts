/* What tests of building ask of a tree. */

export const fieldsOf = async (caller: import('../caller').Caller, id: string) =>
  (await caller.open(id)).snapshot.fields

export const topicsOf = async (caller: import('../caller').Caller, id: string) =>
  new Map((await caller.open(id)).snapshot.topics.map(one => [one.title ?? '', one]))
