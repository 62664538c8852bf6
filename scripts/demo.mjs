/** `npm run demo`: installs and builds what is missing, starts the server with the demo show, opens the address. */
import { createServer } from 'node:net';
import { parseArgs } from 'node:util';
import { build, checkNode, fail, install, start, tsx } from './lib.mjs';

checkNode();

let options;
try {
  options = parseArgs({
    options: { port: { type: 'string', default: '4300' }, 'no-open': { type: 'boolean' }, lan: { type: 'boolean' } },
  }).values;
} catch (error) {
  fail(`${error.message.split('\n')[0]} Usage: npm run demo -- [--port N] [--no-open] [--lan]`);
}
const port = Number(options.port);
if (!Number.isInteger(port) || port < 1 || port > 65535) fail(`"${options.port}" is not a port: choose a number from 1 to 65535.`);

// Asked before the long work, so that a taken port is said at once.
await new Promise((resolve) => {
  const probe = createServer();
  probe.once('error', () => fail(`Port ${port} is taken by another program. Choose another: npm run demo -- --port ${port + 1}`));
  probe.listen(port, '127.0.0.1', () => probe.close(resolve));
});

install();
build();

const [node, args] = tsx('server/main.ts', ['--port', String(port), ...(options.lan ? ['--lan'] : [])]);
const server = start(node, args, { stdio: ['inherit', 'inherit', 'inherit', 'ipc'] });
server.on('message', () => {
  const address = `http://127.0.0.1:${port}/demo`;
  console.log(`The demo show: ${address}`);
  console.log(`Its stream, once you start it: http://127.0.0.1:${port}/watch`);
  if (options['no-open']) return;
  const opener = { darwin: 'open', win32: 'explorer' }[process.platform] ?? 'xdg-open';
  // A machine without a desktop has no opener; the address is printed all the same.
  start(opener, [address], { stdio: 'ignore', detached: true })
    .on('error', () => undefined)
    .unref();
});
server.on('exit', (code) => process.exit(code ?? 1));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
