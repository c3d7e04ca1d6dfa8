import { drawCleave, randomCleaveScene, rngFrom } from '@clear-mark/sim';
import { measureCleave } from '@clear-mark/core';
const errs:number[]=[]; const z:number[]=[]; const sc:number[]=[]; let cls=0,n=0,ref=0; const conf:Record<string,number>={}; let ms=0;
const N=Number(process.argv[2]??60), S=Number(process.argv[3]??5000);
for(let i=0;i<N;i++){const rng=rngFrom(S+i); const v=drawCleave(randomCleaveScene(rng),rng); const t0=performance.now(); const r=measureCleave(v); ms+=performance.now()-t0;
 if(!r.ok){ref++; console.log(i,'REF',r.reason,JSON.stringify(v.scene.ends.map(e=>e.look)),v.scene.umPerPx.toFixed(2));continue;}
 sc.push((r.umPerPx/v.scene.umPerPx-1)*100);
 for(const e of v.scene.ends){n++; const g=r.ends.find(x=>x.side===e.side); if(!g){console.log(i,'MISSING',e.side);continue;} if(g.class===e.look)cls++; else {const k=e.look+'>'+g.class; conf[k]=(conf[k]??0)+1;}
  if(e.look!=='broken'&&g.angleDeg!==null){const d=g.angleDeg-e.angleDeg; errs.push(Math.abs(d)); z.push(Math.abs(d)/g.angleSd!); if(Math.abs(d)>.4)console.log(i,e.side,e.look,g.class,'true',e.angleDeg.toFixed(2),'got',g.angleDeg.toFixed(2),'u',g.angleSd!.toFixed(2),'um',v.scene.umPerPx.toFixed(2),'gap',v.scene.gapUm.toFixed(0));}
 }}
const q=(a:number[],p:number)=>[...a].sort((x,y)=>x-y)[Math.floor((a.length-1)*p)]?.toFixed(3);
console.log('n',n,'refused',ref,'angle median',q(errs,.5),'p95',q(errs,.95),'cover',(z.filter(x=>x<2).length/z.length).toFixed(2),'class',cls/n,'scale',q(sc.map(Math.abs),.5),q(sc.map(Math.abs),.95),'bias',q(sc,.5),JSON.stringify(conf),'ms',(ms/N).toFixed(0));
