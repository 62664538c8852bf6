/** The server's command line; `npm run demo` starts it. The server runs in a process of its own (run.ts), which is watched over. */
import { randomBytes } from 'node:crypto';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { certificateAt, fingerprintOf } from './certificate';
import { certifiedAddresses, lanAddresses } from './guard';
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

const certificatePath = join(values.data, 'certificate.json');
/** Made before the server begins, so that what is printed is what it has. */
const fingerprint = token === null ? null : fingerprintOf(await certificateAt(certificatePath, certifiedAddresses()));

const { stop } = keepServing(
  { certificatePath, port, token, dist: values.dist, ingestRoot: join(values.data, 'ingest'), streamKey: values['stream-key'] },
  {
    ready: () => {
      console.log(`Bivoca is ready at http://127.0.0.1:${port}`);
      if (token !== null) {
        const [address = `https://this-machine:${port}`] = lanAddresses(port);
        console.log(`From other machines: ${address}/?token=${token}`);
        console.log(`Their browsers warn once, as nobody but this machine vouches for the certificate. SHA-256: ${fingerprint}`);
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
