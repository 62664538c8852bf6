/** The kinds of things in a show that have an identity, and what a reference may point at: their names only; core/desk/entities.ts has the things. */

export const ENTITY_KINDS = [
  'source',
  'framing',
  'layout',
  'preset',
  'seat',
  'output',
  'screen',
  'surface',
  'surface-screen',
  'surface-preset',
  'layer',
  'place',
  'graphic',
  'entry',
  'clock',
  'finish',
  'font',
  'sheet',
  'tableau',
  'macro',
  'trigger',
  'item',
  'device',
  'message',
  'page',
  'button',
  'lane',
  'group',
  'style',
  'transition',
  'override',
  'box',
  'angle',
  'reel',
  'clip',
  'input',
  'bus',
  'listener',
  'patch',
  'fader-group',
  'strip-preset',
  'card-mix',
  'air-path',
  'guest',
  'cast',
  'asset',
] as const;
/** A kind of thing that has an identity. */
export type EntityKind = (typeof ENTITY_KINDS)[number];

/** Things of one show that are kept outside of it, so a show cannot say whether they are there. */
export const OUTSIDE: readonly EntityKind[] = ['asset'];

/** What a reference may point at: how it is said to people, and the kinds that are meant. */
export const REF_TARGETS = {
  source: { words: 'source', kinds: ['source'] },
  framing: { words: 'framing', kinds: ['framing'] },
  /** A preset is a stored layout: wherever a layout may stand, it may too. */
  layout: { words: 'layout', kinds: ['layout', 'preset'] },
  preset: { words: 'preset', kinds: ['preset'] },
  seat: { words: 'seat', kinds: ['seat'] },
  /** Anything that can be switched. */
  picture: { words: 'picture', kinds: ['source', 'framing', 'layout', 'preset', 'seat', 'graphic', 'entry'] },
  /** Anything that can be seen, what leaves the mixer included. */
  view: { words: 'picture or output', kinds: ['source', 'framing', 'layout', 'preset', 'seat', 'graphic', 'entry', 'output'] },
  occupant: { words: 'source or framing', kinds: ['source', 'framing'] },
  output: { words: 'output', kinds: ['output', 'screen'] },
  /** An output of the show's own: neither programme nor clean programme. */
  screen: { words: 'output of the show’s own', kinds: ['screen'] },
  surface: { words: 'surface', kinds: ['surface'] },
  'surface-screen': { words: 'screen of a surface', kinds: ['surface-screen'] },
  'surface-preset': { words: 'preset of surfaces', kinds: ['surface-preset'] },
  layer: { words: 'layer of a surface', kinds: ['layer'] },
  place: { words: 'named place', kinds: ['place'] },
  graphic: { words: 'graphic', kinds: ['graphic'] },
  entry: { words: 'entry', kinds: ['entry'] },
  /** What may lie over a picture as a whole: artwork of a layout, a stinger. */
  overlay: { words: 'source or graphic', kinds: ['source', 'graphic', 'entry'] },
  clock: { words: 'clock', kinds: ['clock'] },
  finish: { words: 'finish', kinds: ['finish'] },
  font: { words: 'font', kinds: ['font'] },
  sheet: { words: 'sheet', kinds: ['sheet'] },
  tableau: { words: 'tableau', kinds: ['tableau'] },
  macro: { words: 'macro', kinds: ['macro'] },
  trigger: { words: 'trigger', kinds: ['trigger'] },
  device: { words: 'device', kinds: ['device'] },
  message: { words: 'message to a device', kinds: ['message'] },
  page: { words: 'page of buttons', kinds: ['page'] },
  button: { words: 'button', kinds: ['button'] },
  item: { words: 'item of the running order', kinds: ['item'] },
  lane: { words: 'lane', kinds: ['lane'] },
  group: { words: 'group', kinds: ['group'] },
  style: { words: 'style', kinds: ['style'] },
  transition: { words: 'transition', kinds: ['transition'] },
  box: { words: 'box', kinds: ['box'] },
  angle: { words: 'angle', kinds: ['angle'] },
  reel: { words: 'reel', kinds: ['reel'] },
  clip: { words: 'clip', kinds: ['clip'] },
  channel: { words: 'channel', kinds: ['source', 'input'] },
  /** Whatever can be sent to a bus. */
  'channel-or-bus': { words: 'channel or bus', kinds: ['source', 'input', 'bus'] },
  bus: { words: 'bus', kinds: ['bus'] },
  listener: { words: 'listener', kinds: ['listener'] },
  patch: { words: 'patch', kinds: ['patch'] },
  'fader-group': { words: 'fader group', kinds: ['fader-group'] },
  'strip-preset': { words: 'preset of a channel', kinds: ['strip-preset'] },
  'card-mix': { words: 'path in the card', kinds: ['card-mix'] },
  'air-path': { words: 'way through the air', kinds: ['air-path'] },
  guest: { words: 'guest', kinds: ['guest'] },
  cast: { words: 'cast', kinds: ['cast'] },
  asset: { words: 'asset', kinds: ['asset'] },
} as const satisfies Record<string, { words: string; kinds: readonly EntityKind[] }>;
export type RefTarget = keyof typeof REF_TARGETS;

/** The kinds that a reference of this target may point at. */
export const kindsOf = (to: RefTarget): readonly EntityKind[] => REF_TARGETS[to].kinds;
