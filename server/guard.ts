/** Who may talk to the server: this machine, or with --lan whoever has the token; never a web page from elsewhere. */
import { timingSafeEqual } from 'node:crypto';
import { type IncomingMessage } from 'node:http';
import { networkInterfaces } from 'node:os';

export interface GuardOptions {
  port: number;
  /** Token for other machines; null when the server listens on loopback only. */
  token: string | null;
}

export interface Verdict {
  status: number;
  message: string;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);

function ownNames(lan: boolean): string[] {
  const names = ['127.0.0.1', 'localhost', '[::1]'];
  if (!lan) return names;
  const addresses = Object.values(networkInterfaces()).flatMap((list) => list ?? []);
  return [...names, ...addresses.map(({ address, family }) => (family === 'IPv6' ? `[${address}]` : address))];
}

function equal(a: string, b: string): boolean {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
}

/** The token a request brings: header, cookie, or `?token=`. */
export function tokenOf(request: IncomingMessage): string | null {
  const bearer = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1];
  const cookie = /(?:^|;\s*)bivoca_token=([^;]+)/.exec(request.headers.cookie ?? '')?.[1];
  const query = new URL(request.url ?? '/', 'http://x').searchParams.get('token');
  return query ?? cookie ?? bearer ?? null;
}

/** Null when `request` may pass; otherwise why not. A foreign Host guards against DNS rebinding. */
export function judge(request: IncomingMessage, { port, token }: GuardOptions): Verdict | null {
  const hosts = ownNames(token !== null).map((name) => `${name}:${port}`);
  const host = request.headers.host ?? '';
  if (!hosts.includes(host)) return { status: 403, message: `This server does not answer for the host "${host.slice(0, 80)}".` };
  const { origin } = request.headers;
  if (origin !== undefined && !hosts.some((h) => origin === `http://${h}`)) {
    return { status: 403, message: 'Pages from elsewhere may not use this server.' };
  }
  if (token === null || LOOPBACK.has(request.socket.remoteAddress ?? '')) return null;
  const given = tokenOf(request);
  if (given !== null && equal(given, token)) return null;
  return { status: 401, message: 'This needs the token that the server printed when it started.' };
}
