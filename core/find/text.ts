/**
 * Text as it's compared: without case and accents (Unicode NFKD without combining marks), so that "rundgange" finds "Rundgänge".
 */
export function fold(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}+/gu, '').toLocaleLowerCase('en').replaceAll('ß', 'ss')
}
