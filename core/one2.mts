import vm from 'node:vm'; import { spoiledFiles, readerFault } from './src/test/fuzz.ts';
const f=spoiledFiles().file(+process.argv[2]!);
(globalThis as any).go=()=>readerFault(f);
try{ console.log(vm.runInThisContext('go()',{timeout:1500})); }catch(e){ console.log((e as Error).stack!.split('\n').slice(0,9).join('\n')); }
