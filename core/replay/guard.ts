/** Keeps decks out of what they show: an angle that showed a deck would show itself. */
import { CommandError } from '../commands/command';
import { findSource, picturesWithin, pictureName } from '../desk/pictures';
import { type Show } from '../desk/show';
import { isKind } from '../show/source-kinds';

/** The parts of a show that an angle's picture can depend on. */
const parts = (show: Show) => [show.replay.angles, show.sources, show.framings, show.layouts, show.presets, show.seats, show.guests];

/** Refuses a change after which an angle shows a deck. @throws CommandError with code `circle`, naming both. */
export function guardAngles(before: Show, after: Show): void {
  const old = parts(before);
  if (after.replay.angles.length === 0 || parts(after).every((part, i) => part === old[i])) return;
  for (const { pictureId } of after.replay.angles) {
    for (const id of picturesWithin(after, pictureId, true)) {
      const source = findSource(after, id);
      if (isKind(source, 'deck'))
        throw new CommandError(
          'circle',
          `${pictureName(after, pictureId)} is recorded as an angle: it cannot show ${source.name}, which plays what the angles have recorded.`,
        );
    }
  }
}
