/** What waits for one device: sent one after another, tried again, and given up. Others never wait for it. */
import { type FromDevices, type Reach, type Reached, type ToDevices } from '#core/devices/line';
import { backoffMillis } from '#core/output/backoff';
import { DeviceError, type Link, reason } from './link';
import { linkFor } from './links';

/** Messages that may wait for a device. */
const MOST_WAITING = 100;
/** What has waited longer than this is not sent any more: it would come at the wrong time, milliseconds. */
const STALE_MS = 5000;
/** Messages a second that are heard of one device. */
const MOST_HEARD = 100;

type ToSend = Extract<ToDevices, { kind: 'send' }>;

export class Post {
  private readonly link: Link | null;
  private readonly queue: { out: ToSend; at: number }[] = [];
  private sending = false;
  private closed = false;
  private reach: Reach = 'unknown';
  private message = '';
  private heard = { since: 0, count: 0 };

  constructor(
    readonly device: Reached,
    private readonly tell: (message: FromDevices) => void,
  ) {
    this.link = linkFor(
      device.settings,
      { heard: (text) => this.hear(text), reach: (reached, message) => this.state(reached ? 'reached' : 'away', message) },
      device.waitSeconds * 1000,
    );
    this.report();
  }

  private report(): void {
    if (!this.closed)
      this.tell({ kind: 'state', deviceId: this.device.id, reach: this.reach, message: this.message, waiting: this.queue.length });
  }

  private state(reach: Reach, message: string): void {
    if (reach === this.reach && message === this.message) return;
    Object.assign(this, { reach, message });
    this.report();
  }

  private hear(text: string): void {
    const now = performance.now();
    if (now - this.heard.since > 1000) this.heard = { since: now, count: 0 };
    this.heard.count += 1;
    if (this.heard.count === MOST_HEARD + 1)
      this.state(this.reach, `It says more than ${MOST_HEARD} things a second: the rest is not heard.`);
    if (this.heard.count <= MOST_HEARD && !this.closed) this.tell({ kind: 'heard', deviceId: this.device.id, text });
  }

  send(out: ToSend): void {
    if (this.queue.length >= MOST_WAITING) return this.done(out, false, 0, 0, null, `${MOST_WAITING} messages wait for it already.`);
    this.queue.push({ out, at: performance.now() });
    this.report();
    if (!this.sending) void this.work();
  }

  private done(out: ToSend, ok: boolean, millis: number, tries: number, answer: string | null, message: string): void {
    if (!this.closed) this.tell({ kind: 'done', key: out.key, ok, millis: Math.round(millis), tries, answer, message });
  }

  private async work(): Promise<void> {
    this.sending = true;
    for (let next = this.queue.shift(); next && !this.closed; next = this.queue.shift()) {
      const waited = performance.now() - next.at;
      if (waited > STALE_MS)
        this.done(next.out, false, 0, 0, null, `It waited ${Math.round(waited / 1000)} s for its turn, and is not sent any more.`);
      else await this.one(next.out);
      this.report();
    }
    this.sending = false;
  }

  private async one(out: ToSend): Promise<void> {
    const began = performance.now();
    const { waitSeconds, answers, retries } = this.device;
    let cause = 'The server does not reach devices of this kind.';
    for (let tries = 1; this.link && !this.closed; tries += 1) {
      try {
        const answer = await this.link.send(out, waitSeconds * 1000, answers);
        // A line that was opened before it failed to answer is not opened again.
        if (this.reach === 'away') this.state('reached', '');
        return this.done(out, true, performance.now() - began, tries, answer, '');
      } catch (error) {
        cause = reason(error);
        if (!(error instanceof DeviceError) || answers) this.state('away', cause);
        if (tries > retries) return this.done(out, false, performance.now() - began, tries, null, cause);
        await new Promise((resolve) => setTimeout(resolve, Math.min(1000, backoffMillis(tries) / 4)));
      }
    }
    return this.done(out, false, 0, 0, null, cause);
  }

  close(): void {
    this.closed = true;
    this.queue.length = 0;
    this.link?.close();
  }
}
