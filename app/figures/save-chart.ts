/** Saves a chart that is shown as a drawing (SVG) under a name. */
export function saveChart(selector: string, name: string): void {
  const svg = document.querySelector<SVGSVGElement>(selector)
  if (!svg) return
  const address = URL.createObjectURL(new Blob([new XMLSerializer().serializeToString(svg)], { type: 'image/svg+xml' }))
  saveAs(address, `${name}.svg`)
  setTimeout(() => URL.revokeObjectURL(address), 10_000)
}
