/** "What the take will change": every consequence of the next take, in plain words. */
import { seatSource, takenBySeats } from '../sound/channels';
import { type ChannelStrip } from '../sound/strip';
import { type Air } from '../desk/air';
import { laneIsUp } from './air';
import { pictureName, picturesWithin } from '../desk/pictures';
import { type LaneContent, type Transition } from './document';
import { type Show } from '../desk/show';
import { hasSound } from '../show/source-kinds';
import { mediaSpan } from '../media/player';
import { formatDuration } from '../time/duration';
import { transitionFor } from './change';
import { takenWith } from '../screens/showing';
import { lookChanges } from '../screens/look-words';
import { runningTransition } from './transition';

export interface Change {
  area: 'picture' | 'lane' | 'sound' | 'player' | 'screens' | 'notice';
  text: string;
}

/** "dissolve, 25 frames". */
export function transitionWords(t: Transition): string {
  if (t.kind === 'cut') return 'cut';
  return `${transitionName(t)}, ${t.frames} ${t.frames === 1 ? 'frame' : 'frames'}`;
}

/** "iris wipe", "push to the left". */
export function transitionName(t: Transition): string {
  const towards = t.direction === 'left' || t.direction === 'right' ? `to the ${t.direction}` : t.direction;
  switch (t.kind) {
    case 'wipe':
      return t.shape === 'linear' ? `wipe at ${t.angle}°` : `${t.shape} wipe`;
    case 'push':
    case 'slide':
      return `${t.kind} ${towards}`;
    case 'zoom':
      return 'zoom blur';
    case 'luma':
      return 'picture wipe';
    case 'dissolve':
      return t.light === 'linear' ? 'dissolve in linear light' : 'dissolve';
    default:
      return t.kind;
  }
}

function contentName(show: Show, content: LaneContent | null): string {
  if (!content) return 'nothing';
  return pictureName(show, content.id);
}

/** Changes that a take at `frame` would make, the picture first. Empty when it would change nothing. */
export function takeSummary(show: Show, air: Air, frame: number): Change[] {
  const changes: Change[] = [];
  const running = runningTransition(air, frame);
  if (running?.mode === 'auto') {
    return [{ area: 'notice', text: `${pictureName(show, running.toId)} is on its way: take waits, cut finishes it` }];
  }
  const fromId = running ? running.fromId : air.onAirId;
  const toId = running ? running.toId : air.nextId;
  if (toId !== null && toId !== fromId) {
    const { settings, note } = running ? { settings: running.settings, note: null } : transitionFor(show, air, fromId, toId);
    changes.push({ area: 'picture', text: `${pictureName(show, fromId)} → ${pictureName(show, toId)} (${transitionWords(settings)})` });
    if (note !== null) changes.push({ area: 'notice', text: note[0]?.toUpperCase() + note.slice(1) });
    changes.push(...emptySeats(show, toId));
  }
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    if (!state) continue;
    const up = laneIsUp(state, frame);
    const after = running ? air.onAirId : (air.nextId ?? air.onAirId);
    const goesWith = lane.whileId !== null && !running ? picturesWithin(show, after).has(lane.whileId) : null;
    if (state.armed && up && state.changes)
      changes.push({ area: 'lane', text: `${lane.name} changes to ${contentName(show, lane.content)}` });
    else if ((state.armed && up) || (up && goesWith === false)) changes.push({ area: 'lane', text: `${lane.name} leaves` });
    else if (((state.armed && !up) || (!up && goesWith === true)) && lane.content)
      changes.push({ area: 'lane', text: `${lane.name}: ${contentName(show, lane.content)} comes` });
  }
  if (toId !== null && toId !== fromId) changes.push(...soundChanges(show, fromId, toId), ...playerChanges(show, fromId, toId));
  if (!running)
    for (const surface of takenWith(show, air.screens))
      changes.push({ area: 'screens', text: `${surface.name}: ${lookChanges(show, air.screens, surface)}` });
  return changes;
}

/** Seats in the picture that comes which nobody fills. */
function emptySeats(show: Show, toId: string): Change[] {
  const within = picturesWithin(show, toId);
  const names = show.seats.filter((s) => s.occupantId === null && within.has(s.id)).map((s) => s.name);
  return names.length === 0 ? [] : [{ area: 'notice', text: `Nobody fills ${names.join(', ')}` }];
}

function soundChanges(show: Show, fromId: string | null, toId: string | null): Change[] {
  const [from, to] = [picturesWithin(show, fromId), picturesWithin(show, toId)];
  const taken = takenBySeats(show);
  const follows = ({ sound }: { sound: ChannelStrip }) => sound.follows && !sound.muted;
  const sources = show.sources.filter((s) => follows(s) && hasSound(s) && !taken.has(s.id)).map(({ id, name }) => ({ name, ids: [id] }));
  // A seat's channel sounds with the seat, and with whoever fills it.
  const seats = show.sound.inputs.flatMap((c) =>
    follows(c) && c.feed.kind === 'seat' ? [{ name: c.name, ids: [c.feed.seatId, seatSource(show, c.feed.seatId) ?? ''] }] : [],
  );
  const heard = [...sources, ...seats];
  const within = (ids: readonly string[], picture: ReadonlySet<string>) => ids.some((id) => picture.has(id));
  const line = ([one, several]: [string, string], names: string[]): Change[] =>
    names.length === 0 ? [] : [{ area: 'sound', text: `${names.join(', ')} ${names.length === 1 ? one : several}` }];
  return [
    ...line(
      ['goes', 'go'],
      heard.filter((s) => within(s.ids, from) && !within(s.ids, to)).map((s) => s.name),
    ),
    ...line(
      ['comes', 'come'],
      heard.filter((s) => within(s.ids, to) && !within(s.ids, from)).map((s) => s.name),
    ),
  ];
}

function playerChanges(show: Show, fromId: string | null, toId: string | null): Change[] {
  const [from, to] = [picturesWithin(show, fromId), picturesWithin(show, toId)];
  return show.sources.flatMap((source): Change[] => {
    if (source.settings.kind !== 'media' || !source.settings.startOnTake || from.has(source.id) || !to.has(source.id)) return [];
    const span = mediaSpan(source.settings);
    const end = { hold: 'then holds', loop: 'looping', black: 'then goes to black' }[source.settings.atEnd];
    return [{ area: 'player', text: `${source.name} plays ${formatDuration(span.to - span.from)}, ${end}` }];
  });
}
