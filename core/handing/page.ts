import { escapeHtml } from '../formats/clipboard'
import { noteToHtml } from '../formats/note-html'
import type { Choice } from './choice'
import { type Handed, type HandedTopic, peopleIn, tasksIn } from './handed'
import { Telling } from './telling'

/*
 * A part of a tree as one page for the browser: by itself, from a disk, without a script; branches fold by the browser's own means
 * (HTML, "The details element").
 */

const STYLE = `
:root{color-scheme:light dark;--ink:#16292d;--quiet:#4f6468;--page:#f0f7f6;--plank:#fff;--line:#d5e2e0;--porch:#17616b}
@media(prefers-color-scheme:dark){:root{--ink:#e4efed;--quiet:#9bb2af;--page:#12211f;--plank:#182a29;--line:#2b4241;--porch:#7cc4c9}}
*{box-sizing:border-box}
body{margin:0;background:var(--page);color:var(--ink);font:16px/1.5 Figtree,system-ui,sans-serif;overflow-wrap:anywhere}
main{max-width:54rem;margin:0 auto;padding:2rem 1.2rem 5rem}
h1{font-size:2rem;line-height:1.2;color:var(--porch);margin:0 0 .4rem}
h2.plain{font-size:1.25rem;margin:2.2rem 0 .6rem}
a{color:var(--porch)}
.quiet,.about{color:var(--quiet);font-size:.9rem;margin:.1rem 0 .5rem}
.topic{content-visibility:auto;contain-intrinsic-size:auto 3rem;background:var(--plank);border-left:4px solid var(--porch);padding:.5rem .9rem;margin:.55rem 0;box-shadow:0 1px 0 var(--line)}
.topic .topic{border-left-width:3px;padding:.3rem .7rem;margin:.35rem 0}
summary{cursor:pointer}
summary h2,summary h3,summary h4,summary h5,summary h6,.leaf>h2,.leaf>h3,.leaf>h4,.leaf>h5,.leaf>h6{display:inline;margin:0;font-size:1rem;font-weight:600}
summary h2,.leaf>h2{font-size:1.25rem}
summary h3,.leaf>h3{font-size:1.1rem}
img,svg.drawn{max-width:100%;height:auto}
table{border-collapse:collapse;width:100%;margin:.6rem 0;font-size:.93rem}
th,td{border:1px solid var(--line);padding:.3rem .5rem;text-align:left;vertical-align:top}
pre{overflow:auto}
li.task{list-style:none;display:flex;gap:.4rem}
ul{margin:.2rem 0;padding-left:1.3rem}
blockquote{margin:.4rem 0;padding-left:.8rem;border-left:3px solid var(--line)}
nav ol{columns:2 18rem;list-style:none;padding:0}
nav li{padding:.15rem 0}
:target{outline:3px solid #f0b43c}
.act{display:inline-block;margin-left:.5rem;padding:0 .5rem;font-size:.82rem;line-height:1.9;border:1px solid var(--line);border-radius:99px;text-decoration:none}
.act:hover,.act:focus-visible{background:var(--porch);color:var(--plank)}
@media(pointer:coarse){.act{line-height:2.6rem;padding:0 .9rem}}
@media print{.act{display:none}body{background:#fff}.topic{content-visibility:visible;box-shadow:none;break-inside:avoid-page}details::details-content{content-visibility:visible}}
`

export interface PageAsked {
  readonly handed: Handed
  readonly choice: Choice
  /** The picture of the whole, as SVG; '' for none. */
  readonly drawn: string
  readonly description: string
  readonly author: string
  /** The present day, ISO 8601. */
  readonly today: string
  /** The word for what a reader may do to a topic: it leads to `?at=` and the topic's id. None where the page is only read. */
  readonly act?: string
  /** A picture of the tree as a `data:` address; '' where it's missing. */
  readonly picture: (file: string) => string
}

const anchor = (id: string): string => `t-${id}`
const dir = (text: string): string => (text === '' ? '' : ' dir="auto"')
const spoken = ({ language }: HandedTopic): string => (language === null ? '' : ` lang="${escapeHtml(language)}"`)

/** The page as text. Everything in it was escaped; notes come as their own few elements. */
export function treeAsPage({
  handed,
  choice,
  drawn,
  description,
  author,
  today,
  act = '',
  picture,
}: PageAsked): string {
  const telling = new Telling(choice)
  const { words } = telling
  const e = escapeHtml
  const list = (items: readonly string[]): string =>
    items.length === 0 ? '' : `<ul>${items.map(item => `<li>${item}</li>`).join('')}</ul>`
  const deed = ({ id, title }: HandedTopic): string =>
    act === ''
      ? ''
      : ` <a class="act" href="?at=${encodeURIComponent(id)}" rel="nofollow" aria-label="${e(`${act}: ${title || words.untitled}`)}">${e(act)}</a>`
  const substance = (topic: HandedTopic): string => {
    const about = telling.about(topic)
    const shown = topic.picture ? picture(topic.picture.file) : ''
    return [
      about && `<p class="about"${dir(about)}>${e(about)}</p>`,
      shown && `<p><img src="${e(shown)}" alt="${e(topic.title)}" width="${Math.round(topic.picture!.width)}"></p>`,
      topic.sketch &&
        `<p><img src="data:image/svg+xml,${encodeURIComponent(topic.sketch)}" alt="${e(topic.title)}" width="320"></p>`,
      ...topic.charts.map(
        ({ words: said, svg }) =>
          `<p><img src="data:image/svg+xml,${encodeURIComponent(svg)}" alt="${e(said)}" width="640"></p>`,
      ),
      topic.note && topic.language
        ? `<div${spoken(topic)}>${noteToHtml(topic.note, picture)}</div>`
        : noteToHtml(topic.note, picture),
      list(
        topic.checks.map(
          ({ text, done, due }) =>
            `${done ? '☑' : '☐'} <span dir="auto">${e(text)}</span>${due ? ` <span class="quiet">${e(`${words.due} ${telling.day(due)}`)}</span>` : ''}`,
        ),
      ),
      list([
        ...topic.links.map(({ words: said, url }) =>
          url === null ? e(said) : `<a href="${e(url)}" rel="noopener noreferrer">${e(said)}</a>`,
        ),
        ...(topic.place ? [`${e(words.place)}: ${e(topic.place)}`] : []),
        ...topic.files.map(
          ({ name, size }) => `${e(words.file)}: ${e(name)} <span class="quiet">${e(telling.bytes(size))}</span>`,
        ),
        ...topic.ties.map(tie => `<a href="#${anchor(tie.to)}">${e(telling.tie(tie))}</a>`),
      ]),
      ...topic.comments.map(
        ({ by, at, text }) =>
          `<blockquote><p class="quiet">${e(`${by}, ${telling.day(at.slice(0, 10))}`)}</p><p dir="auto">${e(text).replaceAll('\n', '<br>')}</p></blockquote>`,
      ),
    ]
      .filter(Boolean)
      .join('')
  }
  const tell = (topic: HandedTopic): string => {
    const level = Math.min(6, topic.level + 1)
    const head = `<h${level}${dir(topic.title)}${spoken(topic)}>${e(telling.titled(topic))}</h${level}>`
    const inner = substance(topic) + topic.children.map(tell).join('')
    return inner === ''
      ? `<div class="topic leaf" id="${anchor(topic.id)}">${head}${deed(topic)}</div>`
      : `<details class="topic" id="${anchor(topic.id)}" open><summary>${head}${deed(topic)}</summary>${inner}</details>`
  }
  const { root } = handed
  const tasks = handed.withTasks ? tasksIn(handed) : []
  const people = handed.withTasks ? peopleIn(handed) : []
  const cells = (row: readonly string[], cell: 'td' | 'th'): string =>
    `<tr>${row.map(text => `<${cell}${dir(text)}>${e(text)}</${cell}>`).join('')}</tr>`
  return `<!doctype html>
<html lang="${telling.locale}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src data:; style-src 'unsafe-inline'"><title>${e(root.title || words.untitled)}</title><style>${STYLE}</style></head><body><main>
<h1 id="${anchor(root.id)}"${dir(root.title)}${spoken(root)}>${e(telling.titled(root))}</h1>${deed(root)}
${description ? `<p dir="auto">${e(description).replaceAll('\n', '<br>')}</p>` : ''}
<p class="quiet">${e([author, words.asOf(telling.day(today))].filter(Boolean).join(' · '))}</p>
${handed.deeper > 0 ? `<p class="quiet">${e(words.deeper(handed.deeper))}</p>` : ''}
${drawn ? `<p>${drawn.replace('<svg ', '<svg class="drawn" ')}</p>` : ''}
${
  root.children.length > 1
    ? `<nav aria-label="${e(words.contents)}"><ol>${root.children.map(topic => `<li><a href="#${anchor(topic.id)}">${e(telling.titled(topic))}</a></li>`).join('')}</ol></nav>`
    : ''
}
${substance(root)}${root.children.map(tell).join('\n')}
${tasks.length > 0 ? `<h2 class="plain">${e(words.tasks)}</h2><table><thead>${cells(telling.taskHead, 'th')}</thead><tbody>${tasks.map(task => cells(telling.taskRow(task), 'td')).join('')}</tbody></table>` : ''}
${
  people.length > 0
    ? `<h2 class="plain">${e(words.people)}</h2>${people.map(({ name, topics }) => `<p><strong>${e(name)}</strong></p>${list(topics.map(topic => `<a href="#${anchor(topic.id)}">${e(telling.titled(topic))}</a>`))}`).join('')}`
    : ''
}
${handed.key.length > 0 ? `<h2 class="plain">${e(words.key)}</h2>${list(handed.key.map(({ name }) => e(name)))}` : ''}
</main></body></html>
`
}
