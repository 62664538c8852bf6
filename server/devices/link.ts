/** The shape of every way to a device, and what all of them need. */
import { lookup } from 'node:dns/promises';
import { type Outgoing } from '#core/devices/problems';

/** It could not be sent, or was not answered; `message` is for people. */
export class DeviceError extends Error {}

/** What a way tells of its device. */
export interface LinkEvents {
  /** It said something that answers nothing. */
  heard: (text: string) => void;
  /** It is reached, or is not, and why. */
  reach: (reached: boolean, message: string) => void;
}

export interface Link {
  /** Sends; resolves with the answer where one is waited for, with null otherwise. @throws DeviceError */
  send(out: Outgoing, waitMs: number, answers: boolean): Promise<string | null>;
  close(): void;
}

const CAUSES: Record<string, string> = {
  ECONNREFUSED: 'nobody listens at this port',
  ENOTFOUND: 'no such host is known',
  EAI_AGAIN: 'the name could not be looked up',
  EHOSTUNREACH: 'the host cannot be reached',
  ENETUNREACH: 'the network cannot be reached',
  ETIMEDOUT: 'it did not answer in time',
  ECONNRESET: 'it closed the connection',
  EPIPE: 'it closed the connection',
  EADDRINUSE: 'the port is taken on this machine',
  EACCES: 'this machine may not use the port',
};

/** Why something failed, in words. */
export function reason(error: unknown): string {
  if (error instanceof DeviceError) return error.message;
  const { code, name, cause } = error as { code?: string; name?: string; cause?: unknown };
  if (code !== undefined && Object.hasOwn(CAUSES, code)) return CAUSES[code] as string;
  if (name === 'TimeoutError' || name === 'AbortError') return 'it did not answer in time';
  if (cause !== undefined) return reason(cause);
  return error instanceof Error ? error.message.slice(0, 200) : 'it failed';
}

/** Resolves with what `task` gives, or fails after a time. @throws DeviceError */
export async function within<T>(task: Promise<T>, ms: number, message = 'it did not answer in time'): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  try {
    return await Promise.race([
      task,
      new Promise<never>((_, reject) => {
        timer = setTimeout(() => reject(new DeviceError(message)), ms);
      }),
    ]);
  } finally {
    clearTimeout(timer);
  }
}

/** The address of a host, without the brackets of IPv6. @throws as `lookup` does */
export async function addressOf(host: string): Promise<{ address: string; family: number }> {
  return lookup(host.replace(/^\[|\]$/g, ''));
}

const decoder = new TextDecoder('utf-8');
/** Characters of what is heard that are kept. */
const MOST_HEARD = 4000;

/** Bytes as one line of text: what is no text is replaced, ends of lines become blanks. */
export const lineOf = (bytes: Uint8Array): string =>
  decoder
    .decode(bytes)
    // eslint-disable-next-line no-control-regex -- control characters are what is taken out
    .replace(/[\u0000-\u001f\u007f]+/g, ' ')
    .trim()
    .slice(0, MOST_HEARD);
