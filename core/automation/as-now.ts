/** "As it is now": the present state of chosen parts of the show as acts that set all of their values, also those nobody touched. */
import { type Command } from '../commands/command';
import { type Desk } from '../desk/air';
import { clockFrames } from '../graphics/clocks';
import { laneIsUp } from '../picture/air';
import { surfaceNow as surfaceOnAir } from '../screens/air';
import { coverOf, screenOutput, surfaceOf } from '../screens/outputs';
import { hasSound } from '../show/source-kinds';
import { type Equaliser } from '../sound/strip';
import { frameToSeconds } from '../time/rate';

/** A part of the show whose state can be taken. */
export interface StatePart {
  /** Kind and identity, unlike every other. */
  id: string;
  /** What it belongs to, for the list. */
  group: 'Picture' | 'Lanes' | 'Clocks' | 'Seats' | 'Sound' | 'Layouts' | 'Framings' | 'Screens';
  name: string;
}

/** Every part of a show whose state can be taken. */
export function stateParts({ show }: Desk): StatePart[] {
  const part = (group: StatePart['group'], kind: string, list: readonly { id: string; name: string }[]): StatePart[] =>
    list.map(({ id, name }) => ({ id: `${kind} ${id}`, group, name }));
  return [
    { id: 'air', group: 'Picture', name: 'What is on air' },
    { id: 'next', group: 'Picture', name: 'What is in Next' },
    { id: 'transition', group: 'Picture', name: 'The armed transition' },
    { id: 'black', group: 'Picture', name: 'Black, or not' },
    ...part('Lanes', 'lane', show.lanes),
    ...part(
      'Clocks',
      'clock',
      show.graphics.clocks.filter((c) => c.kind === 'down' || c.kind === 'up'),
    ),
    ...part('Seats', 'seat', show.seats),
    ...part('Sound', 'channel', [...show.sources.filter(hasSound), ...show.sound.inputs]),
    ...part('Sound', 'bus', show.sound.buses),
    ...part('Layouts', 'layout', show.layouts),
    ...part('Framings', 'framing', show.framings),
    ...part('Screens', 'screen', show.screens.outputs),
    ...part('Screens', 'surface', show.screens.surfaces),
  ];
}

const command = (type: string, args: Record<string, unknown>): Command => ({ type, args });

function laneNow({ show, air }: Desk, id: string, frame: number): Command[] {
  const lane = show.lanes.find((l) => l.id === id);
  if (!lane) return [];
  const state = air.lanes[id];
  const up = state !== undefined && laneIsUp(state, frame) ? state.picture : null;
  const ready = command('lane.setContent', { lane: id, content: lane.content });
  return [up ? command('lane.showPicture', { lane: id, picture: up.id }) : command('lane.hide', { lane: id }), ready];
}

function clockNow({ show, air }: Desk, id: string, frame: number): Command[] {
  const clock = show.graphics.clocks.find((c) => c.id === id);
  if (!clock) return [];
  const state = air.graphics.clocks[id];
  const runs = (state?.start ?? null) !== null;
  const gone = frameToSeconds(clockFrames(state, frame), show.rate);
  const says = clock.kind === 'down' ? clock.seconds - gone : clock.seconds + gone;
  return [
    command('clock.pause', { clock: id }),
    command('clock.setTo', { clock: id, seconds: Math.round(says * 1000) / 1000 }),
    ...(runs ? [command('clock.start', { clock: id })] : []),
  ];
}

function channelNow({ show }: Desk, id: string): Command[] {
  const sound = show.sources.find((s) => s.id === id)?.sound ?? show.sound.inputs.find((i) => i.id === id)?.sound;
  if (!sound) return [];
  const { faderDb, muted, follows, gainDb, pick, delayMs, pan, inFrames, outFrames, highPass, gate, compressor, eq } = sound;
  return [
    command('sound.setFader', { channel: id, db: faderDb }),
    command('sound.mute', { channel: id, on: muted }),
    command('sound.follow', { channel: id, on: follows }),
    command('sound.setChannel', { channels: [id], gainDb, pick, delayMs, pan, inFrames, outFrames }),
    command('sound.setHighPass', { channel: id, ...highPass }),
    command('sound.setGate', { channel: id, ...gate }),
    command('sound.setCompressor', { channel: id, ...compressor }),
    ...eqNow(id, eq),
  ];
}

/** The equaliser of a channel or a bus. */
const eqNow = (id: string, { on, bands }: Equaliser): Command[] => [
  ...bands.map((band, i) => command('sound.setBand', { channel: id, band: i + 1, ...band })),
  // A band that is set puts it in use.
  command('sound.setEq', { channel: id, on }),
];

function busNow({ show }: Desk, id: string): Command[] {
  const bus = show.sound.buses.find((b) => b.id === id);
  if (!bus) return [];
  const { faderDb, muted, ceilingDb, delayMs, timing, eq } = bus;
  return [command('sound.setBus', { bus: id, faderDb, muted, ceilingDb, delayMs, timing }), ...eqNow(id, eq)];
}

function framingNow({ show }: Desk, id: string): Command[] {
  const framing = show.framings.find((f) => f.id === id);
  if (!framing) return [];
  const { crop, zoom, panX, panY, aspect, mirror, grade, key } = framing;
  return [command('framing.set', { framing: id, crop, zoom, panX, panY, aspect, mirror, grade, key })];
}

function layoutNow({ show }: Desk, id: string): Command[] {
  const layout = show.layouts.find((l) => l.id === id);
  return (layout?.boxes ?? []).map((box) => {
    const { name, content, rect, crop, fit, zoom, panX, panY, rotation, radius, border, shadow, opacity, key, visible } = box;
    const look = { crop, fit, zoom, panX, panY, rotation, radius, border, shadow, opacity, key, visible };
    return command('box.set', { layout: id, boxes: [box.id], name, content, rect, ...look });
  });
}

/** What an output shows, and what covers it. Its pixels stay: encoders and windows hang on them. */
function screenNow({ show, air }: Desk, id: string): Command[] {
  const output = screenOutput(show, id);
  if (!output) return [];
  return [
    command('screen.set', { output: id, shows: output.shows }),
    command('screen.over', { outputs: [id], over: coverOf(air.screens, id) }),
  ];
}

/** What is on air of a surface, what is in Next, and what covers it. */
function surfaceNow({ show, air }: Desk, id: string, frame: number): Command[] {
  const surface = surfaceOf(show, id);
  if (!surface) return [];
  const { look, over } = surfaceOnAir(air.screens, id, frame);
  return [
    command('surface.setLook', { surface: id, to: 'air', look }),
    command('surface.setLook', { surface: id, to: 'next', look: surface.look }),
    command('surface.over', { surfaces: [id], over }),
  ];
}

/** The state of one part at a frame as commands, in an order in which they bring it about from any other state. */
function partNow(desk: Desk, part: string, frame: number): Command[] {
  const { show, air } = desk;
  const [kind, ...rest] = part.split(' ');
  const id = rest.join(' ');
  switch (kind) {
    case 'air':
      return air.onAirId === null ? [] : [command('picture.cut', { picture: air.onAirId })];
    case 'next':
      return air.nextId === null ? [] : [command('picture.setNext', { picture: air.nextId })];
    case 'black':
      return [command('picture.fadeToBlack', { on: air.black.to === 1 })];
    case 'transition':
      return [command('picture.arm', { ...show.transition })];
    case 'lane':
      return laneNow(desk, id, frame);
    case 'clock':
      return clockNow(desk, id, frame);
    case 'seat':
      return show.seats.filter((s) => s.id === id).map((s) => command('seat.fill', { seat: id, occupant: s.occupantId }));
    case 'channel':
      return channelNow(desk, id);
    case 'bus':
      return busNow(desk, id);
    case 'framing':
      return framingNow(desk, id);
    case 'layout':
      return layoutNow(desk, id);
    case 'screen':
      return screenNow(desk, id);
    case 'surface':
      return surfaceNow(desk, id, frame);
    default:
      return [];
  }
}

/** The state of chosen parts at a frame as commands. */
export const asItIsNow = (desk: Desk, parts: readonly string[], frame: number): Command[] =>
  parts.flatMap((part) => partNow(desk, part, frame));
