/** The mixer's state machine: what a cut, a take and the bar do to air. Works on a draft; used by the commands. */
import { cuedPlayer, mediaSpan } from '../media/player';
import { type Air, type Desk } from '../desk/air';
import { inLength, outLength } from '../graphics/lengths';
import { type Shown } from '../graphics/air';
import { heldUntil, holdCount } from '../graphics/animation/timed';
import { changedTo, settleShown } from '../graphics/showing';
import { type AirLane, createAirLane, type LanePicture, laneFade, laneIsUp } from './air';
import { fadeLevel, turnFade } from '../time/fade';
import { pictureName, picturesWithin, findSource } from '../desk/pictures';
import { type Lane, type Transition } from './document';
import { type MediaSettings } from '../show/source';
import { CommandError } from '../commands/command';
import { secondsToFrames } from '../time/rate';
import { transitionFor } from './change';
import { preparedPicture, samePicture } from './plan';
import { runningTransition, transitionFramesLeft, transitionPosition } from './transition';

/** Forgets what has ended by `frame`: a finished transition, lane pictures that have left. */
export function settle(air: Air, frame: number): void {
  if (air.transition && !runningTransition(air, frame)) air.transition = null;
  for (const lane of Object.values(air.lanes)) {
    if (lane.leaving && fadeLevel(lane.leaving.fade, frame) <= 0) lane.leaving = null;
    const fade = laneFade(lane, frame);
    if (fade !== lane.fade) Object.assign(lane, { fade, leaveAt: null });
    if (lane.picture?.kind === 'graphic') settleShown(lane.picture.shown, frame);
    if (lane.picture && fade.to === 0 && fadeLevel(fade, frame) <= 0) Object.assign(lane, { picture: null, leaveAt: null });
  }
}

/** The air side of a lane, made if the show has gained one. @throws CommandError for an unknown lane. */
export function laneOf(desk: Desk, id: string): { lane: Lane; state: AirLane } {
  const lane = desk.show.lanes.find((l) => l.id === id);
  if (!lane) throw new CommandError('unknown-lane', `There is no lane "${id}".`, 'lane');
  desk.air.lanes[id] ??= createAirLane();
  return { lane, state: desk.air.lanes[id] };
}

/** Frames that a picture takes to come or go: a graphic that has moves of its own takes its own time, whatever is wished. */
function framesOf(picture: LanePicture, phase: 'in' | 'out', wanted: number): number {
  if (picture.kind !== 'graphic') return wanted;
  const own = phase === 'in' ? inLength(picture.shown.graphic) : outLength(picture.shown.graphic);
  return own > 0 ? own : wanted;
}

const oneDesign = (a: LanePicture & { kind: 'graphic' }, b: LanePicture & { kind: 'graphic' }): boolean =>
  a.shown.graphic.designId === b.shown.graphic.designId;

/** Puts a lane's prepared content up over `wanted` frames; what it showed before leaves under it, or changes into it. */
export function raiseLane(desk: Desk, id: string, frame: number, wanted: number): void {
  const { lane, state } = laneOf(desk, id);
  const picture = lane.content ? preparedPicture(desk.show, lane.content, frame) : null;
  if (!picture) {
    throw new CommandError('empty-lane', `${lane.name} holds nothing to show. Give it an entry or a source first.`, 'lane');
  }
  settle(desk.air, frame);
  const frames = framesOf(picture, 'in', wanted);
  if (samePicture(state.picture, picture)) {
    state.fade = turnFade(state.fade, 1, frame, frames);
    if (state.picture?.kind === 'graphic' && state.fade.to === 1 && fadeLevel(state.fade, frame) >= 1) goOn(state.picture.shown, frame);
  } else if (state.picture?.kind === 'graphic' && picture.kind === 'graphic' && oneDesign(state.picture, picture)) {
    // The same design with other values: only what differs moves.
    state.picture = { ...picture, shown: changedTo(state.picture.shown, picture.shown, frame) };
    state.fade = turnFade(state.fade, 1, frame, frames);
  } else {
    if (state.picture)
      state.leaving = { picture: state.picture, fade: turnFade(state.fade, 0, frame, framesOf(state.picture, 'out', wanted)) };
    state.picture = picture;
    state.fade = { from: 0, to: 1, start: frame, frames };
  }
  state.leaveFrames = framesOf(picture, 'out', lane.out.frames);
  const hold = lane.holdSeconds === null ? null : Math.max(1, secondsToFrames(lane.holdSeconds, desk.show.rate));
  state.leaveAt = hold === null ? null : frame + frames + hold;
  startOnAir(desk, picture.id, frame);
}

/** Lets a graphic go on to the next hold point of its animations, where there is one. */
function goOn(shown: Shown, frame: number): void {
  if (shown.hold.index + 1 < holdCount(shown)) shown.hold = { index: shown.hold.index + 1, start: frame };
}

/** The hold of the animation that a lane shows is over, as its seconds have gone by: it goes on, or goes. */
export function endHold(desk: Desk, id: string, frame: number): void {
  const { lane, state } = laneOf(desk, id);
  if (state.picture?.kind !== 'graphic' || state.fade.to === 0) return;
  const { shown } = state.picture;
  const until = heldUntil(shown, desk.show.rate);
  if (until === null || frame < until) return;
  if (shown.hold.index + 1 < holdCount(shown)) goOn(shown, frame);
  else lowerLane(desk, id, frame, lane.out.frames);
}

/** Fades a lane out over `frames`. */
export function lowerLane(desk: Desk, id: string, frame: number, frames: number): void {
  const { state } = laneOf(desk, id);
  settle(desk.air, frame);
  if (!state.picture) return;
  state.fade = turnFade(state.fade, 0, frame, framesOf(state.picture, 'out', frames));
  state.leaveAt = null;
}

/** Turns every armed lane over together with a take that lasts `frames`. Returns those that changed. */
function turnArmedLanes(desk: Desk, frame: number, frames: number): string[] {
  const turned: string[] = [];
  for (const lane of desk.show.lanes) {
    const state = desk.air.lanes[lane.id];
    if (!state?.armed) continue;
    const { changes } = state;
    Object.assign(state, { armed: false, changes: false });
    if (laneIsUp(state, frame) && !changes) lowerLane(desk, lane.id, frame, frames);
    else if (lane.content && preparedPicture(desk.show, lane.content, frame)) raiseLane(desk, lane.id, frame, frames);
    else continue;
    turned.push(lane.id);
  }
  return turned;
}

/** Media sources inside a picture that are set to start when taken. */
function startersIn(desk: Desk, id: string | null): { id: string; settings: MediaSettings }[] {
  return [...picturesWithin(desk.show, id)].flatMap((part) => {
    const settings = findSource(desk.show, part)?.settings;
    return settings?.kind === 'media' && settings.startOnTake ? [{ id: part, settings }] : [];
  });
}

/** Every source seen on air, in the picture or in a lane. */
function seenOnAir(desk: Desk): Set<string> {
  const { show, air } = desk;
  const seen = new Set(picturesWithin(show, air.onAirId));
  for (const { picture } of Object.values(air.lanes)) if (picture) for (const id of picturesWithin(show, picture.id)) seen.add(id);
  return seen;
}

/** Starts the clips of a picture that comes on air; those that are on air already go on. */
function startOnAir(desk: Desk, id: string | null, frame: number, already: ReadonlySet<string> = new Set()): void {
  for (const clip of startersIn(desk, id)) {
    if (!already.has(clip.id)) desk.air.players[clip.id] = { playing: true, start: frame, position: mediaSpan(clip.settings).from };
  }
}

/** Stands clips that have left air at their in point again, ready for the next take. */
function recueOffAir(desk: Desk, id: string | null): void {
  const seen = seenOnAir(desk);
  for (const clip of startersIn(desk, id)) if (!seen.has(clip.id)) desk.air.players[clip.id] = cuedPlayer(clip.settings);
}

/** Puts up and takes down the lanes that go with a picture, when another has come on air. */
function followPicture(desk: Desk, frame: number, frames: number | null): void {
  const { show, air } = desk;
  for (const lane of show.lanes) {
    if (lane.whileId === null) continue;
    const state = laneOf(desk, lane.id).state;
    const wanted = picturesWithin(show, air.onAirId).has(lane.whileId);
    const up = laneIsUp(state, frame);
    if (wanted && !up && lane.content && preparedPicture(show, lane.content, frame))
      raiseLane(desk, lane.id, frame, frames ?? lane.in.frames);
    else if (!wanted && up) lowerLane(desk, lane.id, frame, frames ?? lane.out.frames);
  }
}

/**
 * Cuts. Without `sourceId`: to Next, which then holds what was on air; in the middle of a transition, to its end.
 * With `sourceId`: that source to air at once, Next as it was.
 */
export function cut(desk: Desk, frame: number, sourceId?: string): void {
  const { air } = desk;
  const running = runningTransition(air, frame);
  settle(air, frame);
  if (sourceId === undefined && running) {
    air.transition = null;
    recueOffAir(desk, running.fromId);
    return;
  }
  const toId = sourceId ?? air.nextId;
  const armed = sourceId === undefined && desk.show.lanes.some((l) => air.lanes[l.id]?.armed);
  if (toId === null && !armed) throw new CommandError('no-next', 'Nothing is in Next. Choose a source first.');
  const fromId = air.onAirId;
  const before = seenOnAir(desk);
  air.transition = null;
  if (toId !== null && toId !== fromId) {
    air.onAirId = toId;
    // Cutting straight to what was in Next swaps too, so that one press brings the old picture back.
    if (sourceId === undefined || air.nextId === sourceId) air.nextId = fromId;
    startOnAir(desk, toId, frame, before);
    recueOffAir(desk, fromId);
    followPicture(desk, frame, null);
  }
  if (sourceId === undefined) turnArmedLanes(desk, frame, 0);
}

/** Begins the transition to Next; returns false when only lanes changed, or when it was a cut. */
function begin(desk: Desk, frame: number, mode: 'auto' | 'bar'): boolean {
  const { show, air } = desk;
  const armed = show.lanes.some((l) => air.lanes[l.id]?.armed);
  if (air.nextId === null && !armed) throw new CommandError('no-next', 'Nothing is in Next. Choose a source first.');
  const { settings } = transitionFor(show, air, air.onAirId, air.nextId);
  const comes = air.nextId !== null && air.nextId !== air.onAirId;
  if (settings.kind === 'cut' && comes) {
    cut(desk, frame);
    return false;
  }
  const lanes = turnArmedLanes(desk, frame, settings.frames);
  if (!comes || air.nextId === null) return false;
  const fromId = air.onAirId;
  change(desk, frame, air.nextId, settings, mode, lanes);
  air.nextId = fromId;
  return true;
}

/** Puts `toId` on air by a transition that starts at `frame`. */
function change(desk: Desk, frame: number, toId: string, settings: Transition, mode: 'auto' | 'bar', lanes: string[]): void {
  const { show, air } = desk;
  const fromId = air.onAirId;
  const before = seenOnAir(desk);
  air.onAirId = toId;
  air.transition = {
    fromId,
    toId,
    // By hand there is no clip to wait for.
    settings: mode === 'bar' && settings.kind === 'stinger' ? { ...settings, kind: 'dissolve' } : { ...settings },
    mode,
    start: frame,
    frames: settings.frames,
    startPosition: 0,
    position: 0,
    lanes,
  };
  startOnAir(desk, toId, frame, before);
  const stinger = settings.kind === 'stinger' ? findSource(show, settings.stingerId)?.settings : undefined;
  if (stinger?.kind === 'media' && settings.stingerId)
    air.players[settings.stingerId] = { playing: true, start: frame, position: mediaSpan(stinger).from };
  followPicture(desk, frame, settings.frames);
}

/** Takes a picture straight to air by a transition of its own; Next and armed lanes stay as they are. */
export function takeDirect(desk: Desk, frame: number, toId: string, settings: Transition): void {
  const { air } = desk;
  settle(air, frame);
  const { nextId } = air;
  if (air.onAirId === toId && !air.transition) return;
  if (settings.kind === 'cut') cut(desk, frame, toId);
  else change(desk, frame, toId, settings, 'auto', []);
  air.nextId = nextId;
}

/**
 * Takes: runs the armed transition to Next. While the bar holds a transition, finishes it from there. While one runs by
 * itself, refuses: a second press by accident must not be seen; cut finishes it at once.
 */
export function take(desk: Desk, frame: number): void {
  const { air } = desk;
  const running = runningTransition(air, frame);
  settle(air, frame);
  if (!running) {
    begin(desk, frame, 'auto');
    return;
  }
  if (running.mode === 'auto') {
    const left = transitionFramesLeft(running, frame);
    throw new CommandError(
      'transition-running',
      `The ${running.settings.kind} to ${pictureName(desk.show, running.toId)} has ${left} frames to go. Cut finishes it at once.`,
    );
  }
  const position = running.position;
  const frames = Math.max(1, Math.round(running.settings.frames * (1 - position)));
  Object.assign(running, { mode: 'auto', start: frame, frames, startPosition: position });
}

/**
 * Moves the bar to `position` (0 old picture, 1 new). The first movement off 0 begins the armed transition; reaching 1
 * ends it, coming back to 0 undoes it. An automatic transition is caught by the bar where the bar is put.
 */
export function moveBar(desk: Desk, frame: number, position: number): void {
  const { air } = desk;
  settle(air, frame);
  if (!air.transition) {
    if (position <= 0 || !begin(desk, frame, 'bar')) return;
  }
  const t = air.transition;
  if (!t) return;
  t.mode = 'bar';
  t.position = position;
  if (position >= 1) {
    air.transition = null;
    recueOffAir(desk, t.fromId);
  } else if (position <= 0) {
    air.transition = null;
    air.onAirId = t.fromId;
    // Next may have been chosen anew while the bar was held; that choice stands.
    if (air.nextId === t.fromId) air.nextId = t.toId;
    for (const id of t.lanes) {
      const state = air.lanes[id];
      if (!state) continue;
      if (state.fade.to === 1) lowerLane(desk, id, frame, t.settings.frames);
      else if (state.picture) state.fade = turnFade(state.fade, 1, frame, t.settings.frames);
      state.armed = true;
    }
    recueOffAir(desk, t.toId);
    followPicture(desk, frame, null);
  }
}

/** Position of the bar as the desk shows it. */
export function barPosition(air: Air, frame: number): number {
  const running = runningTransition(air, frame);
  return running ? transitionPosition(running, frame) : 0;
}
