/** A data source of a day on the skerries that changes by itself: heat results, standings and wind, as functions of the time. All invented. */

const PILOTS = [
  ['Maren Tolv', 'Skerry Point', 12],
  ['Osk Ferrand', 'Lantern Bay', 7],
  ['Ilse Quay', 'Pier North', 31],
  ['Bram Dory', 'Skerry Point', 4],
  ['Sunniva Marl', 'Gull Rock', 18],
  ['Tove Harrow', 'Lantern Bay', 22],
  ['Piet Sorrel', 'Pier North', 9],
  ['Asta Vane', 'Gull Rock', 27],
] as const;

/** Seconds from one result to the next. */
const STEP_S = 6;

/** A number from 0 to 1 that looks like chance and is always the same for the same whole numbers. */
function chance(a: number, b: number): number {
  let x = Math.imul(a + 1, 0x9e3779b1) ^ Math.imul(b + 1, 0x85ebca6b);
  x = Math.imul(x ^ (x >>> 15), 0x2c1b3c6d);
  x = Math.imul(x ^ (x >>> 12), 0x297a2d39);
  return ((x ^ (x >>> 15)) >>> 0) / 2 ** 32;
}

/** Points of a pilot after so many results: each result is of one pilot. */
function pointsOf(pilot: number, results: number): number {
  let points = 60 + Math.round(chance(pilot, 0) * 20);
  for (let r = 1; r <= results; r += 1)
    if (Math.floor(chance(r, 99) * PILOTS.length) === pilot) points += 2 + Math.round(chance(pilot, r) * 9);
  return points;
}

/** Results that are in at a moment, milliseconds since 1970: a day begins anew every ten minutes. */
const resultsAt = (millis: number): number => Math.floor((millis / 1000 / STEP_S) % 100);

/** Standings: one row for each pilot, in the order of their bibs. */
export const standings = (millis: number): Record<string, string | number>[] =>
  PILOTS.map(([name, club, bib], i) => ({ Bib: bib, Pilot: name, Club: club, Points: pointsOf(i, resultsAt(millis)) }));

/** Wind: knots, gusts and where it comes from; and whether a kite is on the line there. */
export function wind(millis: number): Record<string, string | number>[] {
  const t = Math.floor(millis / 2000);
  const knots = 12 + Math.round(4 * Math.sin(t / 9) + 2 * chance(t, 3));
  return [
    {
      Place: 'Skerry Point',
      Knots: knots,
      Gusts: knots + 3 + Math.round(chance(t, 4) * 4),
      From: ['SW', 'WSW', 'W'][t % 30 < 10 ? 0 : t % 30 < 20 ? 1 : 2] ?? 'W',
      // A kite leaves the line, and comes back, every three quarters of a minute.
      Kite: t % 24 < 14 ? 'on the line' : 'off the line',
    },
    { Place: 'Lantern Bay', Knots: Math.max(1, knots - 3), Gusts: knots + 1, From: 'SW', Kite: 'on the line' },
  ];
}

const NEWS = [
  'Heat 4 begins at the Skerry Point line',
  'The small kites fly from the lee side until noon',
  'Line judges are asked to the pier',
  'Tide turns at 14:20',
  'Soup and bread at the lantern tent',
  'Gull Rock is closed to spectators',
];

/** News for a line along the lower edge: one more every few seconds, then from the beginning. */
export const news = (millis: number): Record<string, string>[] =>
  NEWS.slice(0, 3 + (Math.floor(millis / 1000 / 20) % (NEWS.length - 2))).map((text) => ({ News: text }));

/** What the data source answers, by the name of the file. */
export const DATA = { 'standings.json': standings, 'wind.json': wind, 'news.json': news } as const;
