/** `npm run dev`: the server, and the app with hot reload at http://localhost:5173/demo. */
import { bin, checkNode, install, start, tsx } from './lib.mjs';

checkNode();
install();
const [node, args] = tsx('server/main.ts');
const children = [start(node, args), start(bin('vite'), [])];
for (const child of children) child.on('exit', (code) => process.exit(code ?? 1));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((child) => child.kill(signal)));
