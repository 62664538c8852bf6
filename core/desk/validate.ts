/** Whether raw data is a show: fields by class, then what holds between them. */
import { replayProblems } from '../replay/validate';
import { soundProblems } from '../sound/validate';
import { check, type Problem } from '../schema/check';
import { graphicProblems } from '../graphics/validate';
import { layoutProblems } from '../layout/validate';
import { outputsOf } from '../screens/outputs';
import { refProblems } from './missing';
import { switchable } from './pictures';
import { Show } from './show';

/** Data that is not a usable show; `problems` names each place. */
export class ShowError extends Error {
  constructor(
    message: string,
    readonly problems: Problem[] = [],
  ) {
    super(message);
  }
}

/** Every fault in `raw` as a show of the present version; empty when it is sound. */
export function showProblems(raw: unknown): Problem[] {
  const problems = check(Show, raw);
  return problems.length > 0 ? problems : relationProblems(raw as Show);
}

function doubles(values: (string | number | null)[], path: (index: number) => string, what: string): Problem[] {
  const seen = new Set<string | number>();
  return values.flatMap((value, index) => {
    if (value === null) return [];
    if (seen.has(value)) return [{ path: path(index), message: `${what} ${value} is used twice` }];
    seen.add(value);
    return [];
  });
}

function relationProblems(show: Show): Problem[] {
  const pictures = switchable(show);
  // Outputs first, so that a picture that has the name of one is named itself.
  const outputs = outputsOf(show);
  const problems = [
    ...doubles(
      [...outputs, ...pictures].map((p) => p.id),
      (i) => pictures[i - outputs.length]?.path ?? '',
      'id',
    ),
    ...doubles(
      pictures.map((p) => p.number),
      (i) => pictures[i]?.path ?? '',
      'number',
    ),
    ...doubles(
      show.groups.map((g) => g.id),
      (i) => `groups[${i}].id`,
      'id',
    ),
    ...doubles(
      show.lanes.map((l) => l.id),
      (i) => `lanes[${i}].id`,
      'id',
    ),
  ];
  for (const side of ['width', 'height'] as const) {
    if (show.raster[side] % 2 !== 0) problems.push({ path: `raster.${side}`, message: 'must be even' });
  }
  const fps = show.rate.num / show.rate.den;
  if (fps < 1 || fps > 240) problems.push({ path: 'rate', message: `must be 1 to 240 frames a second, not ${fps}` });
  show.sources.forEach(({ settings: s }, i) => {
    if (s.kind === 'media' && s.out !== null && s.out <= s.in) {
      problems.push({ path: `sources[${i}].settings.out`, message: 'must be later than the in point' });
    }
  });
  return problems.concat(refProblems(show), layoutProblems(show), graphicProblems(show), replayProblems(show), soundProblems(show));
}
