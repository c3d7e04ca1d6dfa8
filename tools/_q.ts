import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { findFibers } from '../packages/core/src/side-view/find-fibers.ts';
import { fitFiberEdges, middleAt } from '../packages/core/src/side-view/fiber-edges.ts';
import { edgeLevels } from '../packages/core/src/side-view/edge-shift.ts';
const D='/work/main/../shared/camera/cleaves/';
const T=JSON.parse(readFileSync(D+'truth.json','utf8')).pictures;
for(const t of T){ if(!t.ok||t.optics.screen)continue; const g=await sharp(D+'images/'+t.file).flatten().toColourspace('b-w').raw({depth:'uchar'}).toBuffer({resolveWithObject:true});
 const image={width:g.info.width,height:g.info.height,data:new Uint8Array(g.data)};
 const f=findFibers(image); if(typeof f==='string')continue; const r=f.fibers[0]!;
 let e=fitFiberEdges(image,r.side,r.end,r.width,r.middle,f.border,12)!; const e0=e; e=fitFiberEdges(image,r.side,r.end,e.width,(x)=>middleAt(e0,x),f.border,0.2*(e.light-e.dark))??e0;
 const es=edgeLevels(image,e); if(!es) continue; const trueHalf=t.diameter_um/2/t.scale_um_per_px; const d=e.width/2-trueHalf; // edge lies d px inside of half-level
 const p50=es.place(.5)!; const at=p50-d; // place
 let q=NaN; for(let s=.02;s<.9;s+=.01){const a=es.place(s); if(a!==null&&a>=at){q=s;break;}}
 const um=t.scale_um_per_px; const over=es.over;
 console.log(t.file,'blur_um',t.optics.blur_um,'b1090um',((es.place(.9)!-es.place(.1)!)*um).toFixed(2),'25-75',((es.place(.75)!-es.place(.25)!)*um).toFixed(2),'px',((es.place(.9)!-es.place(.1)!)).toFixed(2),'q',q.toFixed(2),'over',over.toFixed(3),'gamma',t.optics.gamma,t.optics.saturated?'SAT':'');
}
