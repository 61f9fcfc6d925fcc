import { createHash } from 'node:crypto'
import type { FoundLink, GuestLink } from '../access/guest-links'

/*
 * A guest's page needs no script. Where one may run, it asks every few seconds whether the page still holds: it follows what the
 * tree says, with what was folded as it was, and goes when the link goes.
 */

/** How often a page asks, ms. */
const EVERY_MS = 4000

/** What stands for the present state of what a link shows; it says nothing else. */
export const pulseOf = (
  { id, tokenHash }: Pick<GuestLink, 'id' | 'tokenHash'>,
  { version, epoch, said }: Pick<FoundLink, 'version' | 'epoch' | 'said'>,
): string =>
  createHash('sha256').update(`${id} ${tokenHash} ${epoch} ${version} ${said}`).digest('base64url').slice(0, 16)

/** Runs in the page. Plain script of today's browsers, without anything from outside. */
export const PULSE_SCRIPT = `(()=>{
let at=document.querySelector('meta[name=pulse]')?.content,busy=false
const parse=text=>new DOMParser().parseFromString(text,'text/html')
const show=next=>document.documentElement.replaceWith(document.adoptNode(next.documentElement))
const closed=()=>new Set([...document.querySelectorAll('details[id]:not([open])')].map(one=>one.id))
const look=async()=>{
  if(document.hidden||busy||!at)return
  busy=true
  try{
    const pulse=await fetch('?pulse',{cache:'no-store'})
    if([403,404].includes(pulse.status)){at='';show(parse(await pulse.text()));return}
    if(!pulse.ok)return
    const now=await pulse.text()
    if(now===at)return
    const page=await fetch('?again',{cache:'no-store'})
    if(!page.ok)return
    const next=parse(await page.text()),folded=closed(),{scrollX:x,scrollY:y}=window
    for(const one of next.querySelectorAll('details[id]'))if(folded.has(one.id))one.removeAttribute('open')
    show(next)
    scrollTo(x,y)
    at=now
  }catch{}finally{busy=false}
}
setInterval(look,${EVERY_MS})
addEventListener('visibilitychange',look)
addEventListener('online',look)
})()`
/** By which the page's policy knows the script, and lets no other run. */
export const PULSE_HASH = `'sha256-${createHash('sha256').update(PULSE_SCRIPT).digest('base64')}'`
