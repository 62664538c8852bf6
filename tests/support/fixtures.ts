/** Shows of earlier versions, made by the code of their time and not by today's. */
import { readFileSync } from 'node:fs';

/** A show and its air of that version; each call gives a copy of its own. */
export const fixture = (
  version: 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9 | 10 | 11 | 12,
): { show: Record<string, unknown>; air: Record<string, unknown> } =>
  JSON.parse(readFileSync(new URL(`../fixtures/show-v${version}.json`, import.meta.url), 'utf8')) as ReturnType<typeof fixture>;
