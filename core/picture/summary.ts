/** "What the take will change": every consequence of the next take, in plain words. */
import { type Air, laneIsUp } from '../show/air';
import { findSource, type LaneContent, type Show, sourceName, type Transition } from '../show/show';
import { hasSound } from '../show/source';
import { mediaSpan } from '../media/player';
import { formatDuration } from '../time/duration';
import { runningTransition } from './transition';

export interface Change {
  area: 'picture' | 'lane' | 'sound' | 'player' | 'notice';
  text: string;
}

/** "dissolve, 25 frames". */
export function transitionWords(t: Transition): string {
  const name = t.kind === 'wipe' ? `wipe to the ${t.direction === 'down' || t.direction === 'up' ? (t.direction === 'down' ? 'bottom' : 'top') : t.direction}` : t.kind;
  return `${name}, ${t.frames} ${t.frames === 1 ? 'frame' : 'frames'}`;
}

function contentName(show: Show, content: LaneContent | null): string {
  if (!content) return 'nothing';
  if (content.kind === 'source') return sourceName(show, content.id);
  const card = show.cards.find((c) => c.id === content.id);
  return card ? `card ${card.name || '(no name)'}` : 'a missing card';
}

/** Changes that a take at `frame` would make, the picture first. Empty when it would change nothing. */
export function takeSummary(show: Show, air: Air, frame: number): Change[] {
  const changes: Change[] = [];
  const running = runningTransition(air, frame);
  if (running?.mode === 'auto') {
    return [{ area: 'notice', text: `${sourceName(show, running.toId)} is on its way: take waits, cut finishes it` }];
  }
  const fromId = running ? running.fromId : air.onAirId;
  const toId = running ? running.toId : air.nextId;
  if (toId !== null && toId !== fromId) {
    const how = transitionWords(running?.settings ?? show.transition);
    changes.push({ area: 'picture', text: `${sourceName(show, fromId)} → ${sourceName(show, toId)} (${how})` });
  }
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    if (!state?.armed) continue;
    if (laneIsUp(state, frame)) changes.push({ area: 'lane', text: `${lane.name} leaves` });
    else if (lane.content) changes.push({ area: 'lane', text: `${lane.name}: ${contentName(show, lane.content)} comes` });
  }
  if (toId !== null && toId !== fromId) changes.push(...soundChanges(show, fromId, toId), ...playerChanges(show, toId));
  return changes;
}

function soundChanges(show: Show, fromId: string | null, toId: string | null): Change[] {
  const change = (id: string | null, verb: string): Change[] => {
    const source = findSource(show, id);
    if (!source || !source.sound.follows || source.sound.muted || !hasSound(source)) return [];
    return [{ area: 'sound', text: `Sound of ${source.name} ${verb}` }];
  };
  return [...change(fromId, 'goes'), ...change(toId, 'comes')];
}

function playerChanges(show: Show, toId: string | null): Change[] {
  const source = findSource(show, toId);
  if (source?.settings.kind !== 'media' || !source.settings.startOnTake) return [];
  const { from, to } = mediaSpan(source.settings);
  const end = { hold: 'then holds', loop: 'looping', black: 'then goes to black' }[source.settings.atEnd];
  return [{ area: 'player', text: `${source.name} plays ${formatDuration(to - from)}, ${end}` }];
}
