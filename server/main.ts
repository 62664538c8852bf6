/** The server's command line; `npm run demo` starts it. */
import { randomBytes } from 'node:crypto';
import { networkInterfaces } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { serve } from './serve';

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

try {
  await serve({ port, token, dist: values.dist, ingestRoot: join(values.data, 'ingest'), streamKey: values['stream-key'] });
} catch (error) {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(taken ? `Port ${port} is taken by another program. Choose another: npm run demo -- --port ${port + 1}` : `The server cannot start: ${(error as Error).message}`);
  process.exit(1);
}

console.log(`Bivoca is ready at http://127.0.0.1:${port}`);
if (token !== null) {
  const address = Object.values(networkInterfaces()).flatMap((list) => list ?? []).find((a) => a.family === 'IPv4' && !a.internal)?.address;
  console.log(`From other machines: http://${address ?? 'this-machine'}:${port}/?token=${token}`);
}
process.send?.('ready');
