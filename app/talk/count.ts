export const commentsInWords = (count: number): string => (count === 1 ? '1 comment' : `${count} comments`)
