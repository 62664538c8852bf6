/** Addresses that a show names, asked through the server: pages themselves may not read what other machines give. */
import { fetchHostKey } from '../remote/host-key';

export interface AddressAsked {
  address: string;
  timeoutMs: number;
  /** Bytes. */
  most: number;
  allowed: readonly string[];
  /** Tag of the answer that is there already; empty for none. */
  tag: string;
}

export interface AddressAnswer {
  /** Null when nothing has changed since the tag. */
  data: Blob | null;
  tag: string;
  /** Kind of data, as the address says it. */
  kind: string;
}

/** An address that gave no data; `host` is one that may be allowed, where that is what is missing. */
export class AddressTrouble extends Error {
  constructor(
    message: string,
    readonly host: string | null = null,
    /** The server of this page does not answer: the crew is told of that elsewhere. */
    readonly ours = false,
  ) {
    super(message);
  }
}

/** What the server itself needs beyond the time that the address has, milliseconds. */
const SERVER_MS = 5000;

let key: Promise<string> | null = null;

async function asked(body: object, timeoutMs: number): Promise<Response> {
  key ??= fetchHostKey();
  try {
    return await fetch('/api/addresses', {
      method: 'POST',
      headers: { authorization: `Bearer ${await key}`, 'content-type': 'application/json' },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(timeoutMs + SERVER_MS),
    });
  } catch {
    key = null;
    throw new AddressTrouble('The server of Bivoca, which asks addresses, does not answer. Start it again.', null, true);
  }
}

/** The data at an address. @throws AddressTrouble with place, cause and remedy. */
export async function askAddress(wanted: AddressAsked): Promise<AddressAnswer> {
  let response = await asked(wanted, wanted.timeoutMs);
  if (response.status === 403) {
    // The server was started anew, and has another secret.
    key = null;
    response = await asked(wanted, wanted.timeoutMs);
  }
  if (response.status === 304) return { data: null, tag: wanted.tag, kind: '' };
  if (response.ok)
    return {
      data: await response.blob(),
      tag: response.headers.get('x-content-tag') ?? '',
      kind: response.headers.get('x-content-kind') ?? '',
    };
  const { message, host } = (await response.json().catch(() => ({}))) as { message?: string; host?: string | null };
  throw new AddressTrouble(message ?? `The server answers ${response.status}.`, host ?? null);
}
