/** Why something can't be made of a tree, in words for the person; `code` goes with them. */
export class CannotMake extends Error {
  constructor(
    readonly code: 'nothing' | 'too-large' | 'no-plan' | 'no-tasks' | 'no-picture',
    message: string,
  ) {
    super(message)
  }
}
