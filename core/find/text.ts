/**
 * Text as it's compared: without case and accents (Unicode NFKD without combining marks), so that "rundgange" finds "Rundgänge".
 */
export function fold(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}+/gu, '').toLocaleLowerCase('en').replaceAll('ß', 'ss')
}

const known = new WeakMap<object, string>()

/** A topic's title folded; remembered as long as the topic is as it is, since a search asks for all of them at each key. */
export function foldedTitle(topic: { readonly title: string }): string {
  let folded = known.get(topic)
  if (folded === undefined) known.set(topic, folded = fold(topic.title))
  return folded
}
