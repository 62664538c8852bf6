/** Asks an address for data on behalf of a show: within a time and a size, to targets that are public or allowed, and nowhere else. */
import { lookup } from 'node:dns/promises';
import { type IncomingMessage, request as httpRequest } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { isIP } from 'node:net';
import { type Readable } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import { isPrivateAddress } from './targets';

export interface Asked {
  address: string;
  /** Milliseconds for all of it. */
  timeoutMs: number;
  /** Bytes of the answer, unpacked. */
  most: number;
  /** Hosts that may be in this network, or that the address may send on to. */
  allowed: readonly string[];
  /** The tag of the answer that is there already. */
  tag: string | null;
}

export type Answer = { unchanged: true } | { unchanged: false; body: Buffer; type: string; tag: string | null };

/** An address that gives no data. `host` is one that somebody could allow. */
export class AddressError extends Error {
  constructor(
    readonly code: 'bad-address' | 'unreachable' | 'private' | 'redirect' | 'status' | 'html' | 'too-large' | 'too-slow',
    message: string,
    readonly host: string | null = null,
  ) {
    super(message);
  }
}

const MOST_REDIRECTS = 5;

const UNPACK: Record<string, () => NodeJS.ReadWriteStream> = { gzip: createGunzip, br: createBrotliDecompress, deflate: createInflate };

function urlOf(address: string, base: URL): URL {
  let url: URL;
  try {
    url = new URL(address, base);
  } catch {
    throw new AddressError('bad-address', `“${address.slice(0, 120)}” is no address.`);
  }
  if ((url.protocol !== 'http:' && url.protocol !== 'https:') || url.username !== '' || url.password !== '')
    throw new AddressError('bad-address', 'Only http:// and https:// addresses without a name and password are asked.');
  return url;
}

/** The IP address that is asked: resolved once and kept to, so that a name cannot mean another machine a moment later. */
async function targetOf({ hostname, host }: URL, allowed: readonly string[]): Promise<{ address: string; family: 4 | 6 }> {
  const bare = hostname.replace(/^\[|\]$/gu, '');
  const all = isIP(bare)
    ? [{ address: bare, family: isIP(bare) }]
    : await lookup(bare, { all: true }).catch(() => {
        throw new AddressError(
          'unreachable',
          `There is no machine ${host.slice(0, 120)}. See whether its name is right, and this machine on the network.`,
        );
      });
  const [first] = all;
  if (!first) throw new AddressError('unreachable', `There is no machine ${host.slice(0, 120)}.`);
  const inside = all.find((a) => isPrivateAddress(a.address));
  if (inside && !allowed.includes(host))
    throw new AddressError('private', `${host} is in this network or this machine (${inside.address}). Allow it if that is meant.`, host);
  return { address: first.address, family: first.family === 6 ? 6 : 4 };
}

function open(url: URL, target: { address: string; family: 4 | 6 }, tag: string | null, signal: AbortSignal): Promise<IncomingMessage> {
  return new Promise((resolve, reject) => {
    const send = url.protocol === 'https:' ? httpsRequest : httpRequest;
    const request = send(
      url,
      {
        method: 'GET',
        signal,
        agent: false,
        // The name is not looked up again.
        lookup: (_name, options, done) => {
          if (options.all) (done as (e: null, all: { address: string; family: number }[]) => void)(null, [target]);
          else done(null, target.address, target.family);
        },
        headers: {
          accept: 'application/json, text/csv, text/tab-separated-values, text/plain;q=0.8, image/*;q=0.8, */*;q=0.5',
          'accept-encoding': 'gzip, br',
          'user-agent': 'Bivoca',
          ...(tag !== null && { 'if-none-match': tag }),
        },
      },
      resolve,
    );
    request.on('error', reject);
    request.end();
  });
}

async function bodyOf(response: IncomingMessage, most: number): Promise<Buffer> {
  const tooLarge = () => new AddressError('too-large', `It sends more than ${most / 1e6} MB. Let it send less, or allow more.`);
  if (Number(response.headers['content-length'] ?? 0) > most) throw tooLarge();
  const unpack = UNPACK[String(response.headers['content-encoding'] ?? '')];
  const stream = (unpack ? response.pipe(unpack()) : response) as Readable;
  // A fault on the way in is one of what comes out.
  if (unpack) response.on('error', (error) => stream.destroy(error));
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of stream as AsyncIterable<Buffer>) {
    bytes += part.length;
    if (bytes > most) throw tooLarge();
    parts.push(part);
  }
  return Buffer.concat(parts);
}

/** Where an answer sends on to. @throws AddressError when that is another host, and nobody has allowed it. */
function onwards(url: URL, response: IncomingMessage, allowed: readonly string[]): URL {
  const next = urlOf(String(response.headers.location ?? ''), url);
  if (next.host !== url.host && !allowed.includes(next.host))
    throw new AddressError('redirect', `${url.host} sends on to ${next.host}. Allow it if that is meant.`, next.host);
  if (url.protocol === 'https:' && next.protocol === 'http:')
    throw new AddressError('bad-address', `${url.host} sends on from https to http. Write the address that is meant.`);
  return next;
}

async function ask(asked: Asked, base: URL, signal: AbortSignal): Promise<Answer> {
  let url = urlOf(asked.address, base);
  // What this server itself gives to everybody may be asked as it is.
  const own = asked.address.startsWith('/') && url.host === base.host;
  for (let times = 0; times <= MOST_REDIRECTS; times += 1) {
    const allowed = own ? [...asked.allowed, base.host] : asked.allowed;
    const response = await open(url, await targetOf(url, allowed), asked.tag, signal);
    try {
      const { statusCode = 0, headers } = response;
      if (statusCode === 304 && asked.tag !== null) return { unchanged: true };
      if (statusCode >= 300 && statusCode < 400 && headers.location !== undefined) {
        url = onwards(url, response, allowed);
        continue;
      }
      if (statusCode < 200 || statusCode >= 300)
        throw new AddressError('status', `${url.host} answers ${statusCode}. Open the address in a browser and see what it says.`);
      const type = String(headers['content-type'] ?? '').toLowerCase();
      if (type.includes('html'))
        throw new AddressError('html', `${url.host} answers with a page (HTML), not with data. Take the address of the data itself.`);
      const tag = typeof headers.etag === 'string' ? headers.etag.slice(0, 200) : null;
      return { unchanged: false, body: await bodyOf(response, asked.most), type, tag };
    } finally {
      response.destroy();
    }
  }
  throw new AddressError('redirect', `${url.host} sends on again and again.`);
}

/** The data at an address; `base` is this server, for addresses that begin with `/`. @throws AddressError that says place, cause and remedy. */
export async function askAddress(asked: Asked, base: URL): Promise<Answer> {
  const signal = AbortSignal.timeout(asked.timeoutMs);
  try {
    // A name that is not found may take longer than all else.
    return await Promise.race([
      ask(asked, base, signal),
      new Promise<never>((_, reject) => signal.addEventListener('abort', () => reject(new Error('too slow')), { once: true })),
    ]);
  } catch (error) {
    if (error instanceof AddressError) throw error;
    const host = urlOf(asked.address, base).host;
    if (signal.aborted)
      throw new AddressError(
        'too-slow',
        `${host} did not send all of it within ${asked.timeoutMs / 1000} s. Give it longer, or let it send less.`,
      );
    const { code = '', message } = error as { code?: string; message: string };
    throw new AddressError('unreachable', `${host} cannot be asked: ${code === 'ECONNREFUSED' ? 'nothing answers there' : message}.`);
  }
}
