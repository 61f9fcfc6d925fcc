import { escapeHtml } from '#core/formats/clipboard'

/* The few pages that a guest meets besides the tree itself: plain HTML, which needs no script. */

const STYLE = `
:root{color-scheme:light dark;--ink:#16292d;--page:#f0f7f6;--plank:#fff;--line:#d5e2e0;--porch:#17616b;--clay:#a93f27}
@media(prefers-color-scheme:dark){:root{--ink:#e4efed;--page:#12211f;--plank:#182a29;--line:#2b4241;--porch:#7cc4c9;--clay:#ec8f70}}
body{margin:0;background:var(--page);color:var(--ink);font:17px/1.5 Figtree,system-ui,sans-serif;display:grid;place-items:center;min-height:100vh}
main{background:var(--plank);border-left:4px solid var(--porch);padding:1.6rem 2rem;max-width:26rem;width:100%;box-sizing:border-box;margin:1rem}
h1{font-size:1.3rem;margin:0 0 .5rem}
p{margin:.4rem 0}
.wrong{color:var(--clay)}
label{display:block;margin:.8rem 0 .3rem}
.quiet{opacity:.75;font-size:.9rem}
a{color:var(--porch)}
form+form,.row{border-top:1px solid var(--line);margin-top:1.2rem;padding-top:.4rem}
.row{display:flex;flex-wrap:wrap;gap:.6rem}
.row form{border:0;margin:0;padding:0}
textarea,select,input,pre{font:inherit;padding:.45rem .6rem;width:100%;box-sizing:border-box;border:1px solid var(--line);background:var(--page);color:inherit}
select,input{min-height:44px}
pre{white-space:pre-wrap;overflow-wrap:anywhere}
.row button{background:none;color:var(--porch);border:1px solid var(--line)}
button{font:inherit;font-weight:600;margin-top:.8rem;padding:.5rem 1.1rem;border:0;background:var(--porch);color:var(--plank);cursor:pointer;min-height:44px}
`

export function page(title: string, body: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><meta name="robots" content="noindex"><title>${escapeHtml(title)}</title><style>${STYLE}</style></head><body><main>${body}</main></body></html>`
}

/** A topic that the link doesn't show, or not any more. */
export const missingPage = (wrong: string, words = ''): string =>
  page(
    'Not there any more',
    `<h1>Not there any more</h1><p role="alert">${escapeHtml(wrong)}</p>${yourWords(words)}<p><a href="?">Back to the page</a></p>`,
  )

/** `words`: what somebody had written when the link went, so that it isn't lost. */
export const gonePage = (words = ''): string =>
  page(
    'This link leads nowhere',
    `<h1>This link leads nowhere</h1><p>It was withdrawn, its time is over, or a letter of it is missing. Ask whoever gave it to you for another.</p>${yourWords(words)}`,
  )

const yourWords = (words: string): string =>
  words.trim() === ''
    ? ''
    : `<p>What you wrote wasn’t kept. Here it is, to be copied:</p><pre dir="auto">${escapeHtml(words)}</pre>`

/** `words`: what somebody had written when the word was asked for again. */
export const wordPage = (wrong: string, words = ''): string =>
  page(
    'A word, please',
    `<h1>A word, please</h1><p>Whoever gave you this link has also told you a word.</p>${wrong ? `<p class="wrong" role="alert">${escapeHtml(wrong)}</p>` : ''}<form method="post"><label for="word">The word</label><input id="word" name="word" type="password" autocomplete="off" autofocus required maxlength="200"><button>Open</button></form>${yourWords(words)}`,
  )

export const busyPage = (words = ''): string =>
  page(
    'One moment',
    `<h1>One moment</h1><p>This can’t be shown just now: too much is asked for at once. Open it again in a minute.</p>${yourWords(words)}`,
  )
