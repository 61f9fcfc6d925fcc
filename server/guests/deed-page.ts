import type { LinkGuest } from '#core/access/principal'
import { mayTakeAway } from '#core/access/by-link'
import { escapeHtml as e } from '#core/formats/clipboard'
import { LIMITS, topicOf, type TopicId, type Tree } from '#core/tree'
import type { Deed } from './deeds'
import { page } from './look-page'

/* One topic, and what a guest may do to it: forms that need no script. */

export interface DeedAsked {
  readonly tree: Tree
  readonly at: TopicId
  readonly guest: Pick<LinkGuest, 'may' | 'tasks' | 'branch' | 'shown'> & { readonly id: string }
  /** The name they have given; '' before that. */
  readonly name: string
  /** What was sent and couldn't be done, with why. */
  readonly deed?: Partial<Deed>
  readonly wrong?: string
}

const PERCENTS = ['0', '25', '50', '75', '100']

export function deedPage({ tree, at, guest, name, deed = {}, wrong = '' }: DeedAsked): string {
  const topic = topicOf(tree, at)
  const title = topic.title || 'untitled'
  const retold = deed.do === 'keep' ? deed : {}
  const form = (what: Deed['do'], inner: string, label: string): string =>
    `<form method="post" action="?at=${encodeURIComponent(at)}"><input type="hidden" name="do" value="${what}">${inner}<button>${e(label)}</button></form>`
  const was = (field: string, value: string): string => `<input type="hidden" name="${field}" value="${e(value)}">`
  const fields = [
    name
      ? `<p class="quiet">You are ${e(name)}.</p>`
      : `<label>Your name <input name="name" required maxlength="80" autocomplete="name" value="${e(retold.name ?? '')}"></label>`,
    `<label>What do you want to say about it? <textarea name="text" rows="4" maxlength="20000" dir="auto">${e(retold.text ?? '')}</textarea></label>`,
  ]
  if (guest.may === 'edit') {
    if (topic.reference !== null)
      fields.push('<p class="quiet">This stands for a topic elsewhere, and says what that one says.</p>')
    else {
      fields.push(titleField(retold.title ?? topic.title), was('wasTitle', topic.title))
      if (guest.tasks) {
        const done = topic.done === null ? '' : String(topic.done)
        const chosen = retold.done ?? done
        const due = topic.due ?? ''
        fields.push(
          `<label>How far <select name="done">${['', ...PERCENTS, done]
            .filter((each, i, all) => all.indexOf(each) === i)
            .sort((a, b) => Number(a || -1) - Number(b || -1))
            .map(each => `<option value="${each}"${each === chosen ? ' selected' : ''}>${farInWords(each)}</option>`)
            .join('')}</select></label>`,
          was('wasDone', done),
          `<label>Due <input type="date" name="due" value="${e(retold.due ?? due)}"></label>`,
          was('wasDue', due),
        )
      }
    }
    fields.push(
      `<label>New topics below, one a line <textarea name="titles" rows="3" dir="auto">${e(retold.titles ?? '')}</textarea></label>`,
    )
  }
  // Whoever has no name yet gives it with the first thing they write.
  const moves =
    guest.may !== 'edit' || name === '' || at === tree.centre || at === guest.branch
      ? ''
      : `<div class="row">${form('up', '', 'Further up')}${form('down', '', 'Further down')}${
          mayTakeAway({ ...guest, kind: 'link', link: '' }, at, tree) ? form('remove', '', 'Take it away') : ''
        }</div>`
  return page(
    title,
    `<p><a href="?#t-${e(at)}">Back to the page</a></p><h1 dir="auto">${e(title)}</h1>${
      wrong ? `<p class="wrong" role="alert">${e(wrong)}</p>` : ''
    }${form('keep', fields.join(''), guest.may === 'edit' ? 'Keep it' : 'Say it')}${moves}`,
  )
}

/** A field of one line would take the breaks out of a title that has some. */
const titleField = (title: string): string =>
  title.includes('\n')
    ? `<label>Title <textarea name="title" rows="3" maxlength="${LIMITS.title}" dir="auto">\n${e(title)}</textarea></label>`
    : `<label>Title <input name="title" maxlength="${LIMITS.title}" dir="auto" value="${e(title)}"></label>`

const farInWords = (percent: string): string =>
  ({ '': 'no task', '0': 'open', '100': 'done' })[percent] ?? `${percent} %`
