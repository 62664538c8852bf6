/** Finding and checking what sound commands name, and the guard against loops. */
import { current, isDraft, original } from 'immer';
import { CommandError } from '../commands/command';
import { Flag } from '../schema/fields';
import { type Desk } from '../desk/air';
import { type Show } from '../desk/show';
import { channelsOf, type Channel } from './channels';
import { type Bus, type FaderGroup, type Listener } from './document';
import { loopKey, loopKeys, loopReport } from './routing/loops';
import { routingReport } from './routing/findings';

/** @throws CommandError when the show has no such channel. */
export function channelOf({ show }: Desk, id: string, field = 'channel'): Channel {
  const found = channelsOf(show).find((c) => c.id === id);
  if (found) return found;
  const source = show.sources.find((s) => s.id === id);
  throw source
    ? new CommandError('no-sound', `${source.name} has no sound.`, field)
    : new CommandError('unknown-channel', `There is no channel "${id}" in this show.`, field);
}

/** @throws CommandError when the show has no such bus. */
export function busOf({ show }: Desk, id: string, field = 'bus'): Bus {
  const found = show.sound.buses.find((b) => b.id === id);
  if (!found) throw new CommandError('unknown-bus', `There is no bus "${id}" in this show.`, field);
  return found;
}

/** @throws CommandError when the show has no such listener. */
export function listenerOf({ show }: Desk, id: string, field = 'listener'): Listener {
  const found = show.sound.listeners.find((l) => l.id === id);
  if (!found) throw new CommandError('unknown-listener', `There is no listener "${id}" in this show.`, field);
  return found;
}

/** @throws CommandError when the show has no such fader group. */
export function faderGroupOf({ show }: Desk, id: string, field = 'faderGroup'): FaderGroup {
  const found = show.sound.groups.find((g) => g.id === id);
  if (!found) throw new CommandError('unknown-group', `There is no fader group "${id}" in this show.`, field);
  return found;
}

/** The argument with which a change is made although it closes a loop. */
export const Anyway = () => Flag('also when that closes a loop', { optional: true });

/**
 * Refuses a change that closes a loop which was open before, unless `anyway`. Call it at the end of a command.
 * @throws CommandError with code `loop`, the path in words, and what to do.
 */
export function guardLoops(desk: Desk, anyway = false): void {
  if (!anyway && isDraft(desk)) guardLoopsBetween((original(desk) as Desk).show, current(desk).show);
}

/** The same for two shows. @throws CommandError as `guardLoops` does. */
export function guardLoopsBetween(before: Show, after: Show): void {
  const { loops } = loopReport(after);
  if (loops.length === 0) return;
  const old = loopKeys(routingReport(before).loops);
  const fresh = loops.filter((l) => !old.has(loopKey(l)));
  const worst = fresh.reduce((a, b) => (b.db > a.db ? b : a), fresh[0] as (typeof fresh)[0]);
  if (!worst) return;
  const more = fresh.length > 1 ? `, and ${fresh.length - 1} more` : '';
  throw new CommandError(
    'loop',
    `This would close a loop${worst.db >= 0 ? ' that howls' : ''}: ${worst.words}${more}. Nothing was changed. Send it with \`anyway\` to do it all the same.`,
    'anyway',
  );
}
