/** Devices that are asked by HTTP. */
import { MOST_ANSWER } from '#core/devices/line';
import { type Outgoing } from '#core/devices/problems';
import { type HttpSettings } from '#core/devices/document';
import { DeviceError, type Link, lineOf, type LinkEvents, reason } from './link';

/** The beginning of a body, as text; the rest is not read. */
async function beginning(response: Response): Promise<string> {
  const reader = response.body?.getReader();
  if (!reader) return '';
  const parts: Uint8Array[] = [];
  let size = 0;
  try {
    while (size < MOST_ANSWER) {
      const { done, value } = await reader.read();
      if (done) break;
      parts.push(value);
      size += value.length;
    }
  } finally {
    void reader.cancel().catch(() => undefined);
  }
  return lineOf(Buffer.concat(parts).subarray(0, MOST_ANSWER));
}

/** The address of a path at a device. @throws DeviceError when it would lead elsewhere */
export function addressFor(base: string, path: string): URL {
  const url = new URL(`${base.replace(/\/+$/, '')}/${path.replace(/^\/+/, '')}`);
  if (url.origin !== new URL(base).origin) throw new DeviceError('This path would lead to another host.');
  return url;
}

export class HttpLink implements Link {
  private readonly waiting = new Set<AbortController>();

  constructor(
    private readonly settings: HttpSettings,
    private readonly events: LinkEvents,
  ) {}

  async send({ method, path, text }: Outgoing, waitMs: number): Promise<string> {
    const body = method === 'GET' || text === '' ? {} : { body: text };
    // A timer of its own: of signals that are made of others, this Node forgets the timer when it collects garbage, and waits for ever.
    const stop = new AbortController();
    this.waiting.add(stop);
    const timer = setTimeout(() => stop.abort(new DOMException('', 'TimeoutError')), waitMs);
    try {
      const response = await fetch(addressFor(this.settings.address, path), {
        method,
        ...body,
        headers: 'body' in body ? { 'content-type': /^\s*[{[]/.test(text) ? 'application/json' : 'text/plain; charset=utf-8' } : {},
        // Where it sends on to was not named by the show.
        redirect: 'manual',
        signal: stop.signal,
      });
      const answer = await beginning(response);
      this.events.reach(true, '');
      if (response.status >= 300 && response.status < 400)
        throw new DeviceError(
          `It sends on to ${(response.headers.get('location') ?? 'nowhere').slice(0, 200)}. Name that address instead.`,
        );
      if (!response.ok) throw new DeviceError(`It answers ${response.status}${answer === '' ? '' : `: ${answer.slice(0, 200)}`}`);
      return `${response.status} ${answer}`.trim();
    } catch (error) {
      if (error instanceof DeviceError) throw error;
      this.events.reach(false, reason(error));
      throw new DeviceError(reason(error));
    } finally {
      clearTimeout(timer);
      this.waiting.delete(stop);
    }
  }

  close(): void {
    for (const stop of this.waiting) stop.abort();
  }
}
