/** What must hold between the parts of the sound desk in a show. */
import { type Problem } from '../schema/check';
import { type Show } from '../desk/show';
import { PROGRAMME_BUS } from './document';

/** Every fault between channels, buses, sends, listeners and patches; empty when they are sound. */
export function soundProblems(show: Show): Problem[] {
  const { sound, sources } = show;
  const problems: Problem[] = [];
  const add = (path: string, message: string) => problems.push({ path, message });
  const seen = new Set<string>(sources.map((s) => s.id));
  sound.inputs.forEach(({ id }, i) => {
    if (seen.has(id)) add(`sound.inputs[${i}].id`, `id ${id} is used twice`);
    seen.add(id);
  });
  sound.buses.forEach(({ id }, i) => {
    if (seen.has(id)) add(`sound.buses[${i}].id`, `id ${id} is used twice`);
    seen.add(id);
  });
  if (sound.buses[0]?.id !== PROGRAMME_BUS) add('sound.buses[0].id', `must be "${PROGRAMME_BUS}": the first bus is the programme`);
  const crosspoints = new Set<string>();
  sound.sends.forEach(({ fromId, busId }, i) => {
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
    if (listener.talkback && listener.busId === PROGRAMME_BUS)
      add(`sound.listeners[${i}].talkback`, 'whoever hears the programme bus cannot get talkback');
  });
  return problems;
}
