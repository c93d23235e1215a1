import { writeFileSync } from "node:fs";
import { spoiledFiles, readerFault } from './src/test/fuzz.ts';
const files = spoiledFiles(); const from=+process.argv[2]!, n=+process.argv[3]!;
const faults=new Map<string,number[]>(); let slow:[number,number,string][]=[]; const t0=performance.now();
for(let i=from;i<from+n;i++){ const f=files.file(i); writeFileSync("/tmp/p/at",String(i)); const t=performance.now(); const r=readerFault(f); const d=performance.now()-t; if(d>150) slow.push([d,i,f.name]); if(r){const k=r.slice(0,260); faults.set(k,[...(faults.get(k)??[]),i]);} }
console.log('ms each',((performance.now()-t0)/n).toFixed(2)); slow.sort((a,b)=>b[0]-a[0]); console.log(slow.slice(0,10)); for(const [k,v] of faults) console.log(v.length, v.slice(0,3), k); console.log(Math.round(process.memoryUsage().rss/1e6)+' MB');
