/** What must hold between the parts of the sound desk in a show. */
import { type Problem } from '../schema/check';
import { type Show } from '../desk/show';
import { PROGRAMME_BUS } from './document';

/** Every fault between channels, buses, sends, listeners and patches; empty when they are sound. */
export function soundProblems(show: Show): Problem[] {
  const { sound, sources, seats } = show;
  const problems: Problem[] = [];
  const add = (path: string, message: string) => problems.push({ path, message });
  const seen = new Set<string>(sources.map((s) => s.id));
  sound.inputs.forEach(({ id }, i) => {
    if (seen.has(id)) add(`sound.inputs[${i}].id`, `id ${id} is used twice`);
    seen.add(id);
  });
  const channels = new Set(seen);
  sound.buses.forEach(({ id }, i) => {
    if (seen.has(id)) add(`sound.buses[${i}].id`, `id ${id} is used twice`);
    seen.add(id);
  });
  const buses = new Set(sound.buses.map((b) => b.id));
  const groups = new Set(sound.groups.map((g) => g.id));
  if (sound.buses[0]?.id !== PROGRAMME_BUS) add('sound.buses[0].id', `must be "${PROGRAMME_BUS}": the first bus is the programme`);
  [
    ...sources.map((s, i) => ({ strip: s.sound, path: `sources[${i}].sound` })),
    ...sound.inputs.map((c, i) => ({ strip: c.sound, path: `sound.inputs[${i}].sound` })),
  ].forEach(({ strip, path }) => {
    if (strip.groupId !== null && !groups.has(strip.groupId)) add(`${path}.groupId`, `no fader group has the id "${strip.groupId}"`);
  });
  sound.inputs.forEach(({ feed }, i) => {
    if (feed.kind === 'seat' && !seats.some((s) => s.id === feed.seatId))
      add(`sound.inputs[${i}].feed.seatId`, `no seat has the id "${feed.seatId}"`);
  });
  const crosspoints = new Set<string>();
  sound.sends.forEach(({ fromId, busId }, i) => {
    if (!channels.has(fromId) && !buses.has(fromId)) add(`sound.sends[${i}].fromId`, `no channel or bus has the id "${fromId}"`);
    if (!buses.has(busId)) add(`sound.sends[${i}].busId`, `no bus has the id "${busId}"`);
    if (fromId === busId) add(`sound.sends[${i}].busId`, 'a bus cannot be sent to itself');
    if (crosspoints.has(`${fromId} ${busId}`)) add(`sound.sends[${i}]`, `${fromId} into ${busId} is set twice`);
    crosspoints.add(`${fromId} ${busId}`);
  });
  const named = (list: readonly { id: string }[], path: string) => {
    const ids = new Set<string>();
    list.forEach(({ id }, i) => {
      if (ids.has(id)) add(`${path}[${i}].id`, `id ${id} is used twice`);
      ids.add(id);
    });
  };
  named(sound.listeners, 'sound.listeners');
  named(sound.patches, 'sound.patches');
  named(sound.paths, 'sound.paths');
  named(sound.groups, 'sound.groups');
  named(sound.presets, 'sound.presets');
  named(
    sound.cards.flatMap((c) => c.mixes),
    'sound.cards.mixes',
  );
  sound.listeners.forEach((listener, i) => {
    if (!buses.has(listener.busId)) add(`sound.listeners[${i}].busId`, `no bus has the id "${listener.busId}"`);
    if (listener.talkback && listener.busId === PROGRAMME_BUS)
      add(`sound.listeners[${i}].talkback`, 'whoever hears the programme bus cannot get talkback');
    for (const id of listener.ownIds) if (!channels.has(id)) add(`sound.listeners[${i}].ownIds`, `no channel has the id "${id}"`);
  });
  sound.patches.forEach(({ busId }, i) => {
    if (!buses.has(busId)) add(`sound.patches[${i}].busId`, `no bus has the id "${busId}"`);
  });
  if (sound.talkbackId !== null && !channels.has(sound.talkbackId)) add('sound.talkbackId', `no channel has the id "${sound.talkbackId}"`);
  return problems;
}
