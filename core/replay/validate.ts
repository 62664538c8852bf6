/** What must hold between the parts of replay in a show. */
import { type Problem } from '../schema/check';
import { type Show } from '../desk/show';
import { PROGRAMME_SOUND } from './document';

function twice(ids: readonly (string | number)[], path: (index: number) => string, what: string): Problem[] {
  const seen = new Set<string | number>();
  return ids.flatMap((id, i) => {
    if (seen.has(id)) return [{ path: path(i), message: `${what} ${id} is used twice` }];
    seen.add(id);
    return [];
  });
}

/** Every fault between angles, decks, reels and clips; empty when they are sound. */
export function replayProblems(show: Show): Problem[] {
  const { replay, sources } = show;
  const known = new Set(sources.map((s) => s.id));
  const reels = new Set(replay.reels.map((r) => r.id));
  const problems = [
    ...twice(
      replay.angles.map((a) => a.sourceId),
      (i) => `replay.angles[${i}].sourceId`,
      'angle',
    ),
    ...twice(
      replay.reels.map((r) => r.id),
      (i) => `replay.reels[${i}].id`,
      'id',
    ),
    ...twice(
      replay.clips.map((c) => c.id),
      (i) => `replay.clips[${i}].id`,
      'id',
    ),
    ...twice(
      sources.flatMap(({ settings }) => (settings.kind === 'deck' ? [settings.deck] : [])),
      () => 'sources',
      'deck',
    ),
  ];
  const add = (path: string, message: string) => problems.push({ path, message });
  replay.angles.forEach((angle, i) => {
    if (!known.has(angle.sourceId)) add(`replay.angles[${i}].sourceId`, `no source has the id "${angle.sourceId}"`);
    if (angle.soundId !== null && angle.soundId !== PROGRAMME_SOUND && !known.has(angle.soundId))
      add(`replay.angles[${i}].soundId`, `no source has the id "${angle.soundId}"`);
  });
  if (!reels.has(replay.reelId)) add('replay.reelId', `no reel has the id "${replay.reelId}"`);
  replay.clips.forEach((clip, i) => {
    if (clip.out <= clip.in) add(`replay.clips[${i}].out`, 'must come after the in point');
    if (!reels.has(clip.reelId)) add(`replay.clips[${i}].reelId`, `no reel has the id "${clip.reelId}"`);
  });
  const { musicId, transitionId } = replay.settings;
  if (musicId !== null && !known.has(musicId)) add('replay.settings.musicId', `no source has the id "${musicId}"`);
  if (transitionId !== null && !show.transitions.some((t) => t.id === transitionId))
    add('replay.settings.transitionId', `no transition has the id "${transitionId}"`);
  return problems;
}
