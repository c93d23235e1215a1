import { spoiledFiles } from './src/test/fuzz.ts';
const f=spoiledFiles().file(+process.argv[2]!); console.log(f.name, f.bytes.length); process.stdout.write(Buffer.from(f.bytes));
