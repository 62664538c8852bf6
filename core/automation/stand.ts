/** How a show stands at a frame, value by value in words: what a dry run compares. */
import { type Desk } from '../desk/air';
import { ENTITIES, nameOf } from '../desk/entities';
import { laneIsUp } from '../picture/air';
import { surfaceNow } from '../screens/air';
import { lookWords } from '../screens/look-words';
import { coverOf } from '../screens/outputs';
import { showsWords } from '../screens/words';
import { fadeLevel } from '../time/fade';
import { type EntityKind, ENTITY_KINDS } from '../schema/kinds';
import { clockFrames } from '../graphics/clocks';
import { frameToSeconds } from '../time/rate';

const pictureName = ({ show }: Desk, id: string | null): string => (id === null ? 'nothing' : nameOf(show, 'picture', id));

/** Every value that a macro may set and an audience may notice, by its name. */
export function standOf(desk: Desk, frame: number): Map<string, string> {
  const { show, air } = desk;
  const stand = new Map<string, string>();
  stand.set('On air', pictureName(desk, air.onAirId));
  stand.set('Next', pictureName(desk, air.nextId));
  stand.set('Black', fadeLevel({ ...air.black, start: frame, frames: 0 }, frame) > 0 ? 'black' : 'not black');
  stand.set('Transition armed', `${show.transition.kind}, ${show.transition.frames} frames`);
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    const up = state !== undefined && laneIsUp(state, frame);
    stand.set(`Lane ${lane.name}`, up ? `up with ${pictureName(desk, state.picture?.id ?? null)}` : 'down');
    stand.set(`Ready in ${lane.name}`, pictureName(desk, lane.content?.id ?? null));
  }
  for (const clock of show.graphics.clocks) {
    if (clock.kind === 'day' || clock.kind === 'until') continue;
    const state = air.graphics.clocks[clock.id];
    const gone = frameToSeconds(clockFrames(state, frame), show.rate);
    const says = Math.max(0, clock.kind === 'down' ? clock.seconds - gone : clock.seconds + gone);
    stand.set(clock.name, `${(state?.start ?? null) === null ? 'stands' : 'runs'} at ${Math.round(says * 10) / 10} s`);
  }
  for (const source of show.sources) {
    stand.set(`Fader of ${source.name}`, `${source.sound.faderDb} dB`);
    if (source.sound.muted) stand.set(`Mute of ${source.name}`, 'muted');
    const player = air.players[source.id];
    if (player) stand.set(`Player of ${source.name}`, player.playing ? 'plays' : 'stands');
  }
  for (const bus of show.sound.buses) stand.set(`Fader of ${bus.name}`, `${bus.faderDb} dB`);
  for (const seat of show.seats)
    stand.set(`Seat ${seat.name}`, seat.occupantId === null ? 'empty' : nameOf(show, 'occupant', seat.occupantId));
  for (const { id, name, shows } of show.screens.outputs) {
    stand.set(`Output ${name}`, showsWords(show, shows));
    const over = coverOf(air.screens, id);
    stand.set(`Over ${name}`, over ? showsWords(show, over) : 'nothing');
  }
  for (const { id, name, look } of show.screens.surfaces) {
    const now = surfaceNow(air.screens, id, frame);
    stand.set(`On air of ${name}`, lookWords(show, now.look));
    stand.set(`Next of ${name}`, lookWords(show, look));
    stand.set(`Over ${name}`, now.over ? showsWords(show, now.over) : 'nothing');
  }
  for (const deck of [1, 2] as const) stand.set(`Deck ${deck}`, air.replay.decks[deck].motion.kind);
  stand.set('Recording', air.recording ? 'on' : 'off');
  stand.set('Stream', air.stream ? 'on' : 'off');
  return stand;
}

/** Kinds of things that are compared as a whole, with the words for one. */
const THINGS: Partial<Record<EntityKind, string>> = {
  source: 'source',
  framing: 'framing',
  layout: 'layout',
  preset: 'preset',
  style: 'style',
  graphic: 'graphic',
  tableau: 'tableau',
  bus: 'bus',
  clip: 'clip',
  sheet: 'sheet',
  macro: 'macro',
};

/** What differs between two desks at a frame, in words. */
export function changesOf(before: Desk, after: Desk, frame: number): string[] {
  if (before === after) return [];
  const [was, is] = [standOf(before, frame), standOf(after, frame)];
  const words: string[] = [];
  for (const [name, value] of is) {
    const old = was.get(name);
    if (old !== value) words.push(old === undefined ? `${name}: ${value}` : `${name}: ${old} → ${value}`);
  }
  for (const [name, old] of was) if (!is.has(name)) words.push(`${name}: no longer ${old}`);
  if (before.show !== after.show)
    for (const kind of ENTITY_KINDS) {
      const said = THINGS[kind];
      if (said === undefined) continue;
      const [old, now] = [ENTITIES[kind].list(before.show), ENTITIES[kind].list(after.show)];
      if (old === now) continue;
      const known = new Map(old.map((e) => [e.id, e]));
      for (const e of now) {
        const then = known.get(e.id);
        known.delete(e.id);
        if (!then) words.push(`New ${said}: ${e.name}`);
        else if (then !== e && !words.some((w) => w.includes(e.name)))
          words.push(`${said[0]?.toUpperCase()}${said.slice(1)} ${e.name} changes`);
      }
      for (const e of known.values()) words.push(`${said[0]?.toUpperCase()}${said.slice(1)} ${e.name} goes`);
    }
  return words;
}
