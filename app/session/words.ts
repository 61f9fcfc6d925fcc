/** How heavy a tree is and may be, both in bytes. */
export function weightInWords(bytes: number, most: number): string {
  const mb = (of: number): number => Math.round((of / 1024 / 1024) * 10) / 10
  return `This tree has ${mb(bytes)} of the ${mb(most)} MB that a tree may have. Beyond that nothing can be added.`
}
