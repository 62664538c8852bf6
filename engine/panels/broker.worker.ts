/**
 * Brings windows of one browser together: those that run shows, and those that show their outputs. A shared worker, as it is the one thing
 * that every window reaches, however it was opened. Pictures do not come through here: it only hands on the ports.
 */
import { type ToBroker, type Wanted } from './messages';

/** Windows that may wait for a show to be opened. */
const MOST_WAITING = 16;

interface Host {
  showId: string;
  port: MessagePort;
}

const hosts: Host[] = [];
let waiting: Extract<ToBroker, { type: 'want' }>[] = [];

const hand = ({ port: host }: Host, { outputId, port }: Extract<ToBroker, { type: 'want' }>) =>
  host.postMessage({ type: 'want', outputId, port } satisfies Wanted, [port]);

const hostOf = (showId: string | null) => hosts.findLast((h) => showId === null || h.showId === showId);

function receive(port: MessagePort, message: ToBroker): void {
  const at = hosts.findIndex((h) => h.port === port);
  if (message.type === 'want') {
    const host = hostOf(message.showId);
    if (host) return hand(host, message);
    waiting.push(message);
    waiting.slice(0, -MOST_WAITING).forEach((old) => old.port.close());
    waiting = waiting.slice(-MOST_WAITING);
    return;
  }
  if (at >= 0) hosts.splice(at, 1);
  if (message.type === 'host-gone') return;
  const host = { showId: message.showId, port };
  hosts.push(host);
  const met = waiting.filter((w) => hostOf(w.showId) === host);
  waiting = waiting.filter((w) => !met.includes(w));
  for (const want of met) hand(host, want);
}

(globalThis as unknown as { onconnect: (event: MessageEvent) => void }).onconnect = ({ ports: [port] }) => {
  if (port) port.onmessage = ({ data }: MessageEvent<ToBroker>) => receive(port, data);
};
