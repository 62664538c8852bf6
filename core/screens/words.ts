/** What outputs show, in words: for rooms and for what a macro changes. */
import { nameOf } from '../desk/entities';
import { type Show } from '../desk/show';
import { type Pattern, PATTERNS, type Shows } from './document';

export const PATTERN_WORDS: Record<Pattern, string> = {
  bars: 'Bars',
  grid: 'Grid with numbers',
  ramp: 'Grey ramp',
  lines: 'Fine lines',
  sweep: 'Moving line',
};

export const SHOWS_WORDS: Record<Shows['kind'], string> = {
  programme: 'Programme',
  clean: 'Clean programme',
  picture: 'One picture',
  test: 'Test picture',
  card: 'Its card',
  black: 'Black',
};

export const PATTERN_CHOICES = PATTERNS.map((p) => [p, PATTERN_WORDS[p]] as const);

/** What an output shows. */
export function showsWords(show: Show, shows: Shows): string {
  if (shows.kind === 'test') return PATTERN_WORDS[shows.pattern];
  if (shows.kind === 'picture') return shows.pictureId === null ? 'no picture' : nameOf(show, 'picture', shows.pictureId);
  return SHOWS_WORDS[shows.kind];
}
