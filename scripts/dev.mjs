/** `npm run dev`: server with demo data and the application's development server, both watching. */
import { spawn } from 'node:child_process';
import { ROOT, buildServer, install } from './steps.mjs';

install();
buildServer();
const start = (args) => spawn(process.execPath, args, { cwd: ROOT, stdio: 'inherit' });
const children = [
  start(['--watch', '--import', 'tsx', 'server/src/main.ts', '--demo']),
  start(['node_modules/vite/bin/vite.js', 'web']),
];
const stop = () => children.forEach((child) => child.kill());
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
children.forEach((child) => child.on('exit', stop));
