/** The server's command line; `npm run demo` starts it. The server runs in a process of its own (run.ts), which is watched over. */
import { randomBytes } from 'node:crypto';
import { networkInterfaces } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { keepServing } from './watchdog';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '4300' },
    lan: { type: 'boolean', default: false },
    dist: { type: 'string', default: join(root, 'dist') },
    data: { type: 'string', default: join(root, '.data') },
    'stream-key': { type: 'string', default: 'kites' },
  },
});

const port = Number(values.port);
const token = values.lan ? randomBytes(12).toString('base64url') : null;

const { stop } = keepServing(
  { port, token, dist: values.dist, ingestRoot: join(values.data, 'ingest'), streamKey: values['stream-key'] },
  {
    ready: () => {
      console.log(`Bivoca is ready at http://127.0.0.1:${port}`);
      if (token !== null) {
        const address = Object.values(networkInterfaces())
          .flatMap((list) => list ?? [])
          .find((a) => a.family === 'IPv4' && !a.internal)?.address;
        console.log(`From other machines: http://${address ?? 'this-machine'}:${port}/?token=${token}`);
      }
      process.send?.('ready');
    },
    refused: (message) => {
      console.error(message);
      process.exit(1);
    },
    again: (message) => console.error(message),
  },
);
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    stop();
    process.exit(0);
  });
}
process.on('exit', stop);
