/** Where a picture is used, and how it is taken out of those places. */
import { forgetInSound } from '../sound/forget';
import { runningTransition } from '../picture/transition';
import { type Air, type Desk } from './air';
import { lanePictures } from '../picture/air';
import { type BoxContent } from '../layout/document';
import { picturesWithin } from './pictures';
import { type Show } from './show';

export interface Use {
  place: string;
  /** Seen by the audience at this moment. */
  onAir: boolean;
}

/** Every place that uses the picture at `frame`, those on air first. */
export function usesOf(show: Show, air: Air, id: string, frame: number): Use[] {
  const uses: Use[] = [];
  const add = (place: string, onAir: boolean) => uses.push({ place, onAir });
  const running = runningTransition(air, frame);
  const live = new Set([...picturesWithin(show, air.onAirId), ...picturesWithin(show, running?.fromId ?? null)]);
  if (air.onAirId === id) add('on air', true);
  if (running?.fromId === id || (running?.settings.kind === 'stinger' && running.settings.stingerId === id))
    add('the transition under way', true);
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    const shown =
      state && lanePictures(state, frame).some(({ picture }) => picture.kind === 'source' && picturesWithin(show, picture.id).has(id));
    if (shown) add(`${lane.name}, on air`, true);
    if (lane.content?.kind === 'source' && lane.content.id === id) add(`${lane.name}, held ready`, false);
    if (lane.key?.kind === 'fill' && lane.key.keyId === id) add(`key of ${lane.name}`, Boolean(shown));
  }
  const within = (content: BoxContent | null) => content?.id === id;
  for (const layout of [...show.layouts, ...show.presets]) {
    const onAir = live.has(layout.id);
    if (within(layout.background)) add(`background of ${layout.name}`, onAir);
    for (const box of layout.boxes) {
      if (within(box.content) || (box.key?.kind === 'fill' && box.key.keyId === id))
        add(`box ${box.name} of ${layout.name}`, onAir && box.visible);
    }
    if (layout.frameId === id) add(`frame of ${layout.name}`, onAir);
  }
  for (const seat of show.seats) if (seat.occupantId === id) add(`seat ${seat.name}`, live.has(seat.id));
  for (const f of show.framings) {
    if (f.sourceId === id && f.id !== id) add(`framing ${f.name}`, live.has(f.id));
    if (f.key?.kind === 'fill' && f.key.keyId === id) add(`key of ${f.name}`, live.has(f.id));
  }
  const transitions = [{ name: 'the armed transition', settings: show.transition }, ...show.transitions];
  for (const t of transitions) if (t.settings.imageId === id || t.settings.stingerId === id) add(`transition ${t.name}`, false);
  for (const angle of show.replay.angles) {
    if (angle.sourceId === id) add('an angle of the replay', false);
    else if (angle.soundId === id) add('the sound of a replay angle', false);
  }
  if (show.replay.settings.musicId === id) add('music under play-outs', false);
  if (air.nextId === id) add('Next', false);
  return [...uses.filter((u) => u.onAir), ...uses.filter((u) => !u.onAir)];
}

/** Takes a picture that is gone out of every place that referred to it. */
export function forget({ show, air }: Desk, id: string): void {
  for (const lane of show.lanes) {
    if (lane.content?.kind === 'source' && lane.content.id === id) lane.content = null;
    if (lane.whileId === id) lane.whileId = null;
    if (lane.key?.kind === 'fill' && lane.key.keyId === id) lane.key = null;
  }
  for (const layout of [...show.layouts, ...show.presets]) {
    if (layout.background?.id === id) layout.background = null;
    if (layout.frameId === id) layout.frameId = null;
    for (const box of layout.boxes) {
      if (box.content?.id === id) box.content = null;
      if (box.key?.kind === 'fill' && box.key.keyId === id) box.key = null;
    }
  }
  for (const seat of show.seats) if (seat.occupantId === id) seat.occupantId = null;
  for (const framing of show.framings) if (framing.key?.kind === 'fill' && framing.key.keyId === id) framing.key = null;
  for (const style of show.styles) if (style.framingId === id) style.framingId = null;
  for (const { settings } of [{ settings: show.transition }, ...show.transitions, ...show.overrides]) {
    if (settings.imageId === id) settings.imageId = null;
    if (settings.stingerId === id) settings.stingerId = null;
  }
  show.overrides = show.overrides.filter((o) => o.toId !== id && o.fromId !== id);
  show.eyes = show.eyes.filter((e) => e.sourceId !== id);
  forgetInReplay(show, air, id);
  forgetInSound({ show, air }, id);
  if (air.nextId === id) air.nextId = null;
}

function forgetInReplay({ replay }: Show, air: Air, id: string): void {
  replay.angles = replay.angles.filter((a) => a.sourceId !== id);
  for (const angle of replay.angles) if (angle.soundId === id) angle.soundId = null;
  if (replay.settings.musicId === id) replay.settings.musicId = null;
  const { decks } = air.replay;
  for (const deck of [decks[1], decks[2]]) if (deck.angleId === id) deck.angleId = replay.angles[0]?.sourceId ?? null;
  if (air.replay.music?.sourceId === id) air.replay.music = null;
}
