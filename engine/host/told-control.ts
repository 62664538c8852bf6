/** Tells what triggers look at and only the engine knows: levels of sound, and outputs that fail. */
import { allToTell, type ToTell } from '#core/automation/told';
import { type Desk } from '#core/desk/air';
import { type MeterReading } from '#core/sound/meter';
import { type LiveState } from '../client/state';
import { type Follower, type HostAccess } from './follower';

/** A level has to be under for this long before it is told to be: between words it falls too, milliseconds. */
const UNDER_MS = 1500;

/** What it looks at; another one in tests. */
export interface ToldOutside {
  readings: ReadonlyMap<string, readonly [MeterReading, MeterReading]>;
  now: () => number;
}

/** Whether an output fails; null while there is no stream, of which nobody can say. */
function fails(
  of: 'stream' | 'recording',
  { recordingFailed, encoder: { stream } }: Pick<LiveState, 'recordingFailed' | 'encoder'>,
): boolean | null {
  if (of === 'recording') return recordingFailed;
  return stream ? stream.trouble !== '' : null;
}

export class ToldControl implements Follower {
  private show: Desk['show'] | null = null;
  private list: readonly ToTell[] = [];
  /** Since when a level is under, by its key. */
  private readonly under = new Map<string, number>();

  constructor(
    private readonly access: HostAccess,
    private readonly outside: ToldOutside,
  ) {}

  follow({ show }: Desk): void {
    const before = this.show;
    this.show = show;
    if (before?.automation.triggers === show.automation.triggers && before?.pages === show.pages) return;
    this.list = allToTell(show);
  }

  tick(desk: Desk): void {
    const { told } = desk.air.automation;
    for (const one of this.list) {
      const so = one.of === 'level' ? this.isOver(one, told[one.key] ?? null) : fails(one.of, this.access.state());
      if (so !== null && told[one.key] !== so) this.access.command({ type: 'trigger.told', args: { key: one.key, so } });
    }
    for (const key of Object.keys(told))
      if (!this.list.some((one) => one.key === key)) this.access.command({ type: 'trigger.told', args: { key } });
  }

  /** Over at once, under when it has stayed so; null while nothing is heard of it. */
  private isOver({ key, channelId, db }: ToTell & { of: 'level' }, before: boolean | null): boolean | null {
    const reading = this.outside.readings.get(channelId);
    if (!reading) return null;
    if (Math.max(reading[0].level, reading[1].level) > db) {
      this.under.delete(key);
      return true;
    }
    const now = this.outside.now();
    const since = this.under.get(key) ?? now;
    this.under.set(key, since);
    return before === null || now - since >= UNDER_MS ? false : before;
  }
}
