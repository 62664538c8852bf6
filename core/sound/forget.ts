/** Takes channels, buses and seats that are gone out of the sound desk. */
import { type Desk } from '../desk/air';
import { PROGRAMME_BUS } from './document';

/** A channel is gone: its sends, its place as somebody's own, and guests who were nobody but it. */
export function forgetChannel(desk: Desk, id: string): void {
  const { sound } = desk.show;
  sound.sends = sound.sends.filter((s) => s.fromId !== id);
  if (sound.talkbackId === id) sound.talkbackId = null;
  desk.air.sound.solos = desk.air.sound.solos.filter((s) => s.id !== id);
  const leaving = sound.listeners.filter((l) => l.kind === 'guest' && l.ownIds.length === 1 && l.ownIds[0] === id);
  for (const listener of sound.listeners) if (listener.ownIds.includes(id)) listener.ownIds = listener.ownIds.filter((own) => own !== id);
  for (const listener of leaving) forgetListener(desk, listener.id);
}

/** A listener is gone, and the bus that was made for them with them, unless others use it. */
export function forgetListener(desk: Desk, id: string): void {
  const { sound } = desk.show;
  const listener = sound.listeners.find((l) => l.id === id);
  if (!listener) return;
  sound.listeners = sound.listeners.filter((l) => l.id !== id);
  const { talkback } = desk.air.sound;
  if (talkback) talkback.listenerIds = talkback.listenerIds.filter((l) => l !== id);
  const { busId } = listener;
  const used =
    sound.listeners.some((l) => l.busId === busId) ||
    sound.patches.some((p) => p.busId === busId) ||
    sound.sends.some((s) => s.fromId === busId);
  if (listener.kind === 'guest' && busId !== PROGRAMME_BUS && !used) forgetBus(desk, busId);
}

/** A bus is gone, with everything that led to it or came from it. */
export function forgetBus(desk: Desk, id: string): void {
  const { sound } = desk.show;
  const air = desk.air.sound;
  sound.buses = sound.buses.filter((b) => b.id !== id);
  sound.sends = sound.sends.filter((s) => s.busId !== id && s.fromId !== id);
  sound.patches = sound.patches.filter((p) => p.busId !== id);
  sound.listeners = sound.listeners.filter((l) => l.busId !== id);
  air.solos = air.solos.filter((s) => s.id !== id);
  if (air.earsId === id) air.earsId = PROGRAMME_BUS;
  delete air.held[id];
  delete air.loudness[id];
  if (air.talkback) air.talkback.listenerIds = air.talkback.listenerIds.filter((l) => sound.listeners.some((s) => s.id === l));
}

/** A source, seat or other picture is gone. */
export function forgetInSound(desk: Desk, id: string): void {
  const { sound } = desk.show;
  const seated = sound.inputs.filter((c) => c.feed.kind === 'seat' && c.feed.seatId === id).map((c) => c.id);
  sound.inputs = sound.inputs.filter((c) => !seated.includes(c.id));
  for (const gone of [id, ...seated]) forgetChannel(desk, gone);
}
