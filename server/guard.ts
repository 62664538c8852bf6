/** Who may talk to the server: this machine, or with --lan whoever has the token; never a web page from elsewhere. */
import { timingSafeEqual } from 'node:crypto';
import { type IncomingMessage } from 'node:http';
import { networkInterfaces } from 'node:os';
import { targetOf } from './target';
import { type Throttle } from './throttle';

export interface GuardOptions {
  port: number;
  /** Token for other machines; null when the server listens on loopback only. */
  token: string | null;
}

export interface Verdict {
  status: number;
  message: string;
  /** Seconds after which it may be tried again. */
  retryAfter?: number;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);
/** The port that browsers leave out of `Host` and `Origin`. */
const HTTP_PORT = 80;

/** Every address of this machine. */
const allAddresses = () => Object.values(networkInterfaces()).flatMap((list) => list ?? []);

function ownNames(lan: boolean): string[] {
  const names = ['127.0.0.1', 'localhost', '[::1]'];
  if (!lan) return names;
  return [...names, ...allAddresses().map(({ address, family }) => (family === 'IPv6' ? `[${address}]` : address))];
}

/** Addresses of this machine in its networks, as a browser writes them. */
export const lanAddresses = (port: number): string[] =>
  allAddresses()
    .filter((a) => !a.internal && a.family === 'IPv4')
    .map((a) => `https://${a.address}:${port}`);

/** True when a request came by TLS. */
export const isEncrypted = ({ socket }: Pick<IncomingMessage, 'socket'>): boolean => 'encrypted' in socket;

/** True when it came plainly from another machine: it is only led to TLS. */
export const needsTls = (request: IncomingMessage, { token }: GuardOptions): boolean =>
  token !== null && !isEncrypted(request) && !LOOPBACK.has(request.socket.remoteAddress ?? '');

/** Addresses that a certificate for other machines names. */
export const certifiedAddresses = (): string[] =>
  allAddresses()
    .filter((a) => a.family === 'IPv4')
    .map((a) => a.address);

/** What everybody may have who reaches the server: the app itself, and the doors of panels and guests, which ask for a pass or a link. */
function isOpen(request: IncomingMessage): boolean {
  const target = targetOf(request);
  // A token is looked at wherever it comes: what is right must not be found out by trying here.
  if (!target || target.params.get('token') !== null) return false;
  const path = target.pathname;
  return (
    path === '/api/panel' ||
    path === '/api/guest' ||
    path === '/api/audience' ||
    /^\/api\/wh(ip|ep)\//.test(path) ||
    path === '/api/panel/files' ||
    (request.method === 'GET' && !/^\/(api|ingest|live|watch|simulated)(\/|$)/.test(path))
  );
}

/** True when two secrets are the same; takes as long for a near miss as for a far one. */
export function sameSecret(a: string, b: string): boolean {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
}

/** The bearer secret in a request's `Authorization`, if there is one. */
export const bearerOf = ({ headers }: Pick<IncomingMessage, 'headers'>): string | null =>
  /^Bearer (.+)$/.exec(headers.authorization ?? '')?.[1] ?? null;

/** The token a request brings: header, cookie, or `?token=`. */
export function tokenOf(request: IncomingMessage): string | null {
  const cookie = /(?:^|;\s*)bivoca_token=([^;]+)/.exec(request.headers.cookie ?? '')?.[1];
  return targetOf(request)?.params.get('token') ?? cookie ?? bearerOf(request);
}

/** The address that a wrong guess is counted for. */
export const addressOf = (request: IncomingMessage): string => request.socket.remoteAddress ?? 'unknown';

/** Why a guess is not even looked at, after too many wrong ones; null when it is. */
export function tooMany(guesses: Throttle, request: IncomingMessage): Verdict | null {
  const wait = guesses.waitOf(addressOf(request));
  if (wait === 0) return null;
  const seconds = Math.ceil(wait / 1000);
  return {
    status: 429,
    message: `Too many wrong tokens or keys came from this address. Wait ${seconds} s and try again with the right one.`,
    retryAfter: seconds,
  };
}

/** Null when `request` may pass; otherwise why not. A foreign Host guards against DNS rebinding. */
export function judge(request: IncomingMessage, { port, token }: GuardOptions, guesses: Throttle): Verdict | null {
  const names = ownNames(token !== null);
  const hosts = names.flatMap((name) => (port === HTTP_PORT ? [name, `${name}:${port}`] : [`${name}:${port}`]));
  const host = request.headers.host ?? '';
  if (!hosts.includes(host)) return { status: 403, message: `This server does not answer for the host "${host.slice(0, 80)}".` };
  const { origin } = request.headers;
  if (origin !== undefined && !hosts.some((h) => origin === `${isEncrypted(request) ? 'https' : 'http'}://${h}`)) {
    return { status: 403, message: 'Pages from elsewhere may not use this server.' };
  }
  if (!targetOf(request))
    return { status: 400, message: 'This address cannot be read. It begins with one "/" and is at most 4096 characters long.' };
  if (token === null || LOOPBACK.has(request.socket.remoteAddress ?? '') || isOpen(request)) return null;
  const given = tokenOf(request);
  if (given === null) return { status: 401, message: 'This needs the token that the server printed when it started.' };
  const slow = tooMany(guesses, request);
  if (slow) return slow;
  if (sameSecret(given, token)) {
    guesses.right(addressOf(request));
    return null;
  }
  guesses.wrong(addressOf(request));
  return { status: 401, message: 'This token is not the one that the server printed when it started.' };
}
