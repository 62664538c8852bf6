/** Routings as files: sends, listeners and patches by name, to take from one show to another. */
import { check, type Problem } from '../schema/check';
import { type Constructor, Flag, ListOf, Num, OneOf, Text, TextList, Whole } from '../schema/fields';
import { type Show } from '../desk/show';
import { channelsOf } from './channels';
import {
  createBus,
  LISTENER_KINDS,
  type Listener,
  type ListenerKind,
  MOST_BUSES,
  MOST_PAIRS,
  type Rule,
  RULES,
  type Send,
  type Tap,
  TAPS,
  TIMINGS,
  type Bus,
} from './document';
import { FADER_FLOOR_DB, FADER_TOP_DB } from './level';

class NamedBus {
  @Text(40, 'name', { min: 1 }) name!: string;
  @OneOf(TIMINGS, 'timing') timing!: Bus['timing'];
}
class NamedSend {
  @Text(80, 'channel or bus', { min: 1 }) from!: string;
  @Text(40, 'bus', { min: 1 }) bus!: string;
  @Flag('open') on!: boolean;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'level, dB') levelDb!: number;
  @OneOf(TAPS, 'tap') tap!: Tap;
}
class NamedListener {
  @Text(60, 'name', { min: 1 }) name!: string;
  @OneOf(LISTENER_KINDS, 'who that is') kind!: ListenerKind;
  @Text(40, 'bus', { min: 1 }) bus!: string;
  @OneOf(RULES, 'what they should hear') rule!: Rule;
  @TextList(64, 80, 'channels that are their own') own!: string[];
  @Flag('gets talkback') talkback!: boolean;
}
class NamedPatch {
  @Text(40, 'bus', { min: 1 }) bus!: string;
  @Text(256, 'device') device!: string;
  @Whole(1, MOST_PAIRS, 'pair') pair!: number;
}
export class RoutingFile {
  @OneOf(['bivoca-routing'], 'says that this is a routing') format!: 'bivoca-routing';
  @Whole(1, 1, 'version') version!: number;
  @ListOf(() => NamedBus, MOST_BUSES, 'buses') buses!: NamedBus[];
  @ListOf(() => NamedSend, 6000, 'crosspoints set by hand') sends!: NamedSend[];
  @ListOf(() => NamedListener, 64, 'who listens') listeners!: NamedListener[];
  @ListOf(() => NamedPatch, 128, 'what is plugged in') patches!: NamedPatch[];
}

/** A routing that does not fit the show; each problem with its place. */
export class RoutingError extends Error {
  constructor(
    message: string,
    readonly problems: Problem[],
  ) {
    super(message);
  }
}

/**
 * A name of its own for every bus and channel, by identity: where two have the same, the later one gets a number. The same on the way out
 * and on the way in, so that a second "Mic" is the second one there too. Buses come first.
 */
function ownNames(things: readonly { id: string; name: string }[]): Map<string, string> {
  const taken = new Set(things.map((t) => t.name));
  const given = new Set<string>();
  const numbered = (name: string) => {
    for (let n = 2; ; n += 1) if (!taken.has(`${name} (${n})`) && !given.has(`${name} (${n})`)) return `${name} (${n})`;
  };
  return new Map(
    things.map(({ id, name }) => {
      const own = given.has(name) ? numbered(name) : name;
      given.add(own);
      return [id, own];
    }),
  );
}

/** The routing of a show, by names. */
export function exportRouting(show: Show): RoutingFile {
  const { sound } = show;
  const names = ownNames([...sound.buses, ...channelsOf(show)]);
  const name = (id: string) => names.get(id) ?? id;
  return {
    format: 'bivoca-routing',
    version: 1,
    buses: sound.buses.map((b) => ({ name: name(b.id), timing: b.timing })),
    sends: sound.sends
      .filter((s) => names.has(s.fromId))
      .map(({ fromId, busId, on, levelDb, tap }) => ({ from: name(fromId), bus: name(busId), on, levelDb, tap })),
    listeners: sound.listeners.map(({ name: of, kind, busId, rule, ownIds, talkback }) => ({
      name: of,
      kind,
      bus: name(busId),
      rule,
      own: ownIds.filter((id) => names.has(id)).map(name),
      talkback,
    })),
    patches: sound.patches.map(({ busId, to }) => ({ bus: name(busId), device: to.deviceLabel, pair: to.pair })),
  };
}

const RoutingClass: Constructor = RoutingFile;

/** A device that the show or the machine knows. */
export interface KnownDevice {
  deviceId: string;
  label: string;
}

/**
 * `raw` put into a show: buses that are missing are made, sends, listeners and patches replaced. Pure: gives the new sound desk.
 * @throws RoutingError naming every unknown channel, bus or device with its place; then nothing is changed.
 */
export function importRouting(show: Show, raw: unknown, devices: readonly KnownDevice[], newId: () => string): Show['sound'] {
  const faults = check(RoutingClass, raw);
  if (faults.length > 0) throw new RoutingError(`This is no routing that can be used: ${faults[0]?.path} ${faults[0]?.message}.`, faults);
  const file = raw as RoutingFile;
  const problems: Problem[] = [];
  const lookUp = (map: ReadonlyMap<string, string>, name: string, path: string, what: string): string => {
    const id = map.get(name);
    if (id === undefined) problems.push({ path, message: `no ${what} is called “${name}” here` });
    return id ?? '';
  };
  const buses = [...show.sound.buses];
  const here = new Set(ownNames(buses).values());
  for (const { name, timing } of file.buses) {
    if (here.has(name)) continue;
    here.add(name);
    if (buses.length >= MOST_BUSES) {
      problems.push({ path: 'buses', message: `a show has at most ${MOST_BUSES} buses` });
      break;
    }
    buses.push(createBus(newId(), name, '#8fa5a3', timing));
  }
  const names = ownNames([...buses, ...channelsOf(show)]);
  const either = new Map([...names].map(([id, name]) => [name, id]));
  const busIds = new Map(buses.map((b) => [names.get(b.id) ?? b.name, b.id]));
  const channels = new Map(channelsOf(show).map((c) => [names.get(c.id) ?? c.name, c.id]));
  const devicesByLabel = new Map([...show.sound.patches.map((p) => p.to), ...show.sound.cards].map((d) => [d.deviceLabel, d.deviceId]));
  for (const { deviceId, label } of devices) devicesByLabel.set(label, deviceId);
  const sends = file.sends.map((s, i): Send => ({
    fromId: lookUp(either, s.from, `sends[${i}].from`, 'channel or bus'),
    busId: lookUp(busIds, s.bus, `sends[${i}].bus`, 'bus'),
    on: s.on,
    levelDb: s.levelDb,
    tap: s.tap,
  }));
  const known = new Set<string>();
  const listeners = file.listeners.map((l, i): Listener => {
    const before = show.sound.listeners.find((x) => x.name === l.name && !known.has(x.id));
    if (before) known.add(before.id);
    return {
      id: before?.id ?? newId(),
      name: l.name,
      kind: l.kind,
      busId: lookUp(busIds, l.bus, `listeners[${i}].bus`, 'bus'),
      rule: l.rule,
      ownIds: l.own.map((own, k) => lookUp(channels, own, `listeners[${i}].own[${k}]`, 'channel')),
      place: before?.place ?? null,
      open: before?.open ?? false,
      talkback: l.talkback,
    };
  });
  const patches = file.patches.map((p, i) => ({
    id: newId(),
    busId: lookUp(busIds, p.bus, `patches[${i}].bus`, 'bus'),
    to: { deviceId: lookUp(devicesByLabel, p.device, `patches[${i}].device`, 'sound device'), deviceLabel: p.device, pair: p.pair },
  }));
  if (problems.length > 0) {
    const named = problems
      .slice(0, 4)
      .map((p) => `${p.path}: ${p.message}`)
      .join('; ');
    throw new RoutingError(
      `This routing does not fit: ${named}${problems.length > 4 ? `; and ${problems.length - 4} more` : ''}. Add or rename what is missing, then read it again. Nothing was changed.`,
      problems,
    );
  }
  return { ...show.sound, buses, sends, listeners, patches };
}
