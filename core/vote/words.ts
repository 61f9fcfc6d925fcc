import { shorten } from '../tree/title'
import type { Vote } from '../tree/vote'
import { beatsAll, foremost } from './tally'

/** Names of people by id, as the reader is to see them. */
type NameOf = (id: string) => string

/** Who said yes to a choice, where it was an open question of a few answers; '' where nobody did, or that isn't known. */
export function whoChose({ kind, voters, casts }: Vote, choice: number, nameOf: NameOf): string {
  if (!casts || kind !== 'yes-no') return ''
  return voters
    .filter((_, i) => casts[i]?.[choice] === 1)
    .map(nameOf)
    .join(', ')
}

/** What the bars of an order don't show: that a choice without the most is put before each single other. With a space behind it. */
export function beatsInWords(vote: Vote): string {
  const top = beatsAll(vote)
  return top !== null && !foremost(vote).includes(top)
    ? `“${shorten(vote.choices[top]!, 80)}” is put before each single other. `
    : ''
}

/** Who voted: “4 voted, in secret: Ines, Rana, Oskar, Lev”. */
export function votersInWords({ voters, secret }: Vote, nameOf?: NameOf): string {
  const names = nameOf && voters.length > 0 ? `: ${voters.map(nameOf).join(', ')}` : ''
  return `${voters.length} voted${secret ? ', in secret' : ''}${names}`
}

/** What a vote came to, in one line: “Vote “Carpet?”: Yes 3, No 1, Abstain 0. 4 voted, in secret.” */
export function voteInWords(vote: Vote, nameOf?: NameOf): string {
  const { question, kind, choices, counts } = vote
  const order = choices.map((_, i) => i)
  if (kind !== 'yes-no') order.sort((a, b) => counts[b]! - counts[a]! || a - b)
  const sums = order.map(i => `${shorten(choices[i]!, 80)} ${counts[i]}`).join(', ')
  const named = question ? `Vote “${shorten(question, 200)}”` : 'Vote'
  const how = { 'yes-no': '', points: ' by points', order: ' by order' }[kind]
  const each = nameOf
    ? choices.flatMap((choice, i) => {
        const names = whoChose(vote, i, nameOf)
        return names ? [`${choice}: ${names}`] : []
      })
    : []
  const who = each.length > 0 ? `${votersInWords(vote)} (${each.join('; ')})` : votersInWords(vote, nameOf)
  return `${named}${how}: ${sums}. ${beatsInWords(vote)}${who}.`
}
