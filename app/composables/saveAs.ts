/** Lets the browser save what is at an address under a name. */
export function saveAs(address: string, name: string): void {
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
}
