/** What must hold between the parts of replay in a show. */
import { type Problem } from '../schema/check';
import { type Show } from '../desk/show';

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
  const problems = [
    ...twice(
      replay.angles.map((a) => a.pictureId),
      (i) => `replay.angles[${i}].pictureId`,
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
  replay.clips.forEach((clip, i) => {
    if (clip.out <= clip.in) add(`replay.clips[${i}].out`, 'must come after the in point');
  });
  return problems;
}
