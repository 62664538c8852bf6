/** The address that a request asks for, read without trusting it. */
import { type IncomingMessage } from 'node:http';

export interface Target {
  pathname: string;
  params: URLSearchParams;
}

/** Longest address that is read. */
const LONGEST = 4096;

/**
 * Path and query of a request in origin form (RFC 9112, 3.2.1); null for every other form. Nothing in it is decoded or resolved, and it
 * never throws: `URL` does, for `//` already.
 */
export function targetOf({ url = '' }: Pick<IncomingMessage, 'url'>): Target | null {
  if (!url.startsWith('/') || url.length > LONGEST) return null;
  const at = url.indexOf('?');
  return at < 0
    ? { pathname: url, params: new URLSearchParams() }
    : { pathname: url.slice(0, at), params: new URLSearchParams(url.slice(at + 1)) };
}
