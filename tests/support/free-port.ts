import { createServer } from 'node:net';

/** Ports behind the server's at which its simulated devices listen. */
const BEHIND = 3;

/** A port that nobody uses at this moment, and none of those behind it either. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = await anyPort();
    const behind = await Promise.all(Array.from({ length: BEHIND }, (_, i) => isFree(port + i + 1)));
    if (behind.every((free) => free)) return port;
  }
}

const isFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });

function anyPort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}
