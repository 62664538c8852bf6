/** What outputs show, in words: for rooms and for what a macro changes. */
import { nameOf } from '../desk/entities';
import { type Show } from '../desk/show';
import { type Over } from './air';
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
  surface: 'Its part of a surface',
  canvas: 'A whole canvas',
};

export const PATTERN_CHOICES = PATTERNS.map((p) => [p, PATTERN_WORDS[p]] as const);

/** What an output shows. */
export function showsWords(show: Show, shows: Shows | Over): string {
  if (shows.kind === 'frozen') return 'Frozen';
  if (shows.kind === 'surface' || shows.kind === 'canvas') {
    const name = shows.surfaceId === null ? 'no surface' : nameOf(show, 'surface', shows.surfaceId);
    return shows.kind === 'surface' ? name : `canvas of ${name}${shows.which === 'next' ? ', Next' : ''}`;
  }
  if (shows.kind === 'test') return PATTERN_WORDS[shows.pattern];
  if (shows.kind === 'picture') return shows.pictureId === null ? 'no picture' : nameOf(show, 'picture', shows.pictureId);
  return SHOWS_WORDS[shows.kind];
}
