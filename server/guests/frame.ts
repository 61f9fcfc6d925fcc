import { createHash } from 'node:crypto'

/*
 * A link's page as it stands in a frame on another site: the picture in a box of its own that is panned and zoomed, the outline below it
 * folds as ever, links lead out of the frame. Nothing can be done to the tree from there.
 */

const STYLE = `
main{max-width:none;padding:.6rem .9rem 1rem}
h1{font-size:1.25rem}
#box{overflow:auto;max-height:75vh;border:1px solid var(--line);background:var(--plank);cursor:grab;touch-action:pan-x pan-y;margin:.4rem 0}
#box.held{cursor:grabbing}
#box svg.drawn{display:block;max-width:none;height:auto}
.zoom{display:flex;gap:.4rem}
.zoom button{font:600 1.1rem/1 inherit;min-width:44px;min-height:44px;border:1px solid var(--line);background:var(--plank);color:var(--porch);cursor:pointer}
`

/** Pans by dragging (touch and wheel do it by themselves), zooms about what is in the middle. */
export const FRAME_SCRIPT = `(()=>{
const box=document.getElementById('box'),svg=box?.querySelector('svg')
for(const a of document.querySelectorAll('a[href]'))if(!a.getAttribute('href').startsWith('#')){a.target='_blank';a.rel='noopener noreferrer'}
if(!svg)return
const whole=svg.viewBox.baseVal.width||svg.getBoundingClientRect().width
let scale=Math.min(1,box.clientWidth/whole)
const draw=(to,at=[box.clientWidth/2,box.clientHeight/2])=>{
  const next=Math.min(4,Math.max(.1,to)),x=(box.scrollLeft+at[0])/scale,y=(box.scrollTop+at[1])/scale
  scale=next
  svg.style.width=whole*scale+'px'
  box.scrollLeft=x*scale-at[0]
  box.scrollTop=y*scale-at[1]
}
draw(scale)
const keys={'+':()=>draw(scale*1.25),'-':()=>draw(scale/1.25),0:()=>draw(Math.min(1,box.clientWidth/whole))}
box.addEventListener('keydown',e=>{if(!e.ctrlKey&&!e.metaKey&&keys[e.key]){keys[e.key]();e.preventDefault()}})
for(const b of document.querySelectorAll('.zoom button'))b.addEventListener('click',()=>keys[b.dataset.key]())
box.addEventListener('wheel',e=>{if(!e.ctrlKey)return;e.preventDefault();const r=box.getBoundingClientRect();draw(scale*Math.exp(-e.deltaY/300),[e.clientX-r.left,e.clientY-r.top])},{passive:false})
let from=null
box.addEventListener('pointerdown',e=>{if(e.pointerType==='mouse'&&e.button===0&&!e.target.closest('a')){from=[e.clientX+box.scrollLeft,e.clientY+box.scrollTop];box.setPointerCapture(e.pointerId);box.classList.add('held')}})
box.addEventListener('pointermove',e=>{if(from){box.scrollLeft=from[0]-e.clientX;box.scrollTop=from[1]-e.clientY}})
for(const end of['pointerup','pointercancel'])box.addEventListener(end,()=>{from=null;box.classList.remove('held')})
})()`
export const FRAME_HASH = `'sha256-${createHash('sha256').update(FRAME_SCRIPT).digest('base64')}'`

/** A link's page made ready for a frame. */
export function framed(page: string): string {
  return page
    .replace('</head>', `<style>${STYLE}</style></head>`)
    .replace(
      /<p>(<svg class="drawn"[\s\S]*?<\/svg>)<\/p>/,
      (_, svg: string) =>
        `<div class="zoom" role="group" aria-label="Zoom"><button data-key="+" aria-label="Larger">+</button><button data-key="-" aria-label="Smaller">−</button><button data-key="0" aria-label="The whole">▢</button></div><div id="box" tabindex="0" role="region" aria-label="Picture">${svg}</div>`,
    )
    .replace('</body>', () => `<script>${FRAME_SCRIPT}</script></body>`)
}
