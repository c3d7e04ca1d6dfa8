import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { findFibers } from '../packages/core/src/side-view/find-fibers.ts';
import { fitFiberEdges, middleAt } from '../packages/core/src/side-view/fiber-edges.ts';
import { sampleAt } from '../packages/core/src/faces/pixels/image.ts';
const D='/work/main/../shared/camera/cleaves/';
const T=JSON.parse(readFileSync(D+'truth.json','utf8')).pictures;
for(const name of process.argv.slice(2)){ const t=T.find((x:any)=>x.file.startsWith(name)); const g=await sharp(D+'images/'+t.file).flatten().toColourspace('b-w').raw({depth:'uchar'}).toBuffer({resolveWithObject:true});
 const image={width:g.info.width,height:g.info.height,data:new Uint8Array(g.data)};
 const f=findFibers(image); if(typeof f==='string')continue; const r=f.fibers[0]!;
 let e=fitFiberEdges(image,r.side,r.end,r.width,r.middle,f.border,12)!; const e0=e; e=fitFiberEdges(image,r.side,r.end,e.width,(x)=>middleAt(e0,x),f.border,0.2*(e.light-e.dark))??e0;
 const half=t.diameter_um/2/t.scale_um_per_px; const sl=Math.hypot(1,e.slope);
 const bins=new Map<number,[number,number]>();
 const inw=r.side==='left'?-1:1;
 for(let d=Math.round(.2*r.width);d<3*r.width;d++){const x=e.origin+inw*d; if(x<5||x>image.width-5)break; const m=middleAt(e,x);
  for(const sg of [-1,1]) for(let k=-14;k<=14;k+=1){ const yy=Math.round(m+sg*half*sl)+k; const s=(sg*(yy-m)/sl-half); const v=image.data[yy*image.width+x]!; const b=Math.round(s*4)/4; const c=bins.get(b)??[0,0]; c[0]+=(v-e.dark)/(e.light-e.dark); c[1]++; bins.set(b,c);} }
 console.log(t.file,'um/px',t.scale_um_per_px,'blur',t.optics.blur_um,'gamma',t.optics.gamma,'diam',t.diameter_um, 'w',e.width, 'true w', 2*half);
 console.log([...bins].sort((a,b)=>a[0]-b[0]).filter(([s])=>Math.abs(s)<=9&&Math.round(s*2)===s*2).map(([s,c])=>`${s.toFixed(1)}:${(c[0]/c[1]).toFixed(2)}`).join(' '));
}
