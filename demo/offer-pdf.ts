/** A PDF of plain text, a page for each list of lines; enough for the demo's papers (ISO 32000-1, section 7.5). */
export function plainPdf(pages: readonly (readonly string[])[]): string {
  const objects: string[] = []
  const pageIds = pages.map((_, i) => 4 + i * 2)
  objects[1] = '<< /Type /Catalog /Pages 2 0 R >>'
  objects[2] = `<< /Type /Pages /Kids [${pageIds.map(id => `${id} 0 R`).join(' ')}] /Count ${pages.length} >>`
  objects[3] = '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>'
  pages.forEach((lines, i) => {
    const text = lines
      .map(
        (line, n) => `BT /F1 ${n === 0 ? 20 : 12} Tf 64 ${770 - n * 26} Td (${line.replace(/[\\()]/g, '\\$&')}) Tj ET`,
      )
      .join('\n')
    objects[4 + i * 2] =
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Resources << /Font << /F1 3 0 R >> >> /Contents ${5 + i * 2} 0 R >>`
    objects[5 + i * 2] = `<< /Length ${text.length} >>\nstream\n${text}\nendstream`
  })
  let out = '%PDF-1.4\n'
  const offsets: number[] = []
  objects.forEach((body, id) => {
    offsets[id] = out.length
    out += `${id} 0 obj\n${body}\nendobj\n`
  })
  const start = out.length
  out += `xref\n0 ${objects.length}\n0000000000 65535 f \n${offsets
    .slice(1)
    .map(at => `${String(at).padStart(10, '0')} 00000 n \n`)
    .join('')}`
  return `${out}trailer\n<< /Size ${objects.length} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`
}

export const OFFER = plainPdf([
  [
    'Two Rivers Carriers',
    'Offer for the move of the town library branch',
    '',
    'Two lorries with tail lifts, four people, five days',
    '400 crates, lent for three weeks',
    'Loading by room colour, unloading to the shelf',
    '',
    'Valid until the end of the month.',
  ],
  [
    'Conditions',
    'The yard must be free from seven in the morning.',
    'Books travel upright. Nobody lifts more than one crate.',
    'Payment within thirty days.',
  ],
])

/** A plan of the reading room, as somebody might have drawn it. */
export const PLAN = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="560" viewBox="0 0 900 560"><rect width="900" height="560" fill="#fdfdfb"/><g fill="none" stroke="#17616b" stroke-width="6"><rect x="40" y="40" width="820" height="480"/><path d="M40 300h260M420 300h440M300 520v-120"/></g><g fill="#cfe5e3" stroke="#17616b" stroke-width="2"><rect x="90" y="80" width="180" height="34"/><rect x="90" y="150" width="180" height="34"/><rect x="90" y="220" width="180" height="34"/><rect x="480" y="120" width="220" height="110" rx="8"/><rect x="740" y="60" width="80" height="200"/></g><g fill="#f0b43c"><circle cx="540" cy="175" r="12"/><circle cx="640" cy="175" r="12"/><circle cx="160" cy="410" r="12"/></g><path d="M860 340c-40 20-60 120-10 170" fill="none" stroke="#2f6f9f" stroke-width="10"/></svg>`
