/** What the sound desk finds out by itself, made known to the show: howls, and devices that come and go. */
import { HOLD_DB } from '#core/sound/dsp/bus-processor';
import { type SoundDesk } from '../sound/sound-desk';
import { type HostAccess } from './follower';

/** A bus howls. Where it was turned down on the audio thread, the show hears of it; everybody is told. */
function howled({ state, command, notify }: HostAccess, { busId, hz, held }: { busId: string; hz: number; held: boolean }): void {
  const now = state().desk;
  const bus = now.show.sound.buses.find((b) => b.id === busId);
  if (!bus || now.air.sound.held[busId]) return;
  if (!held)
    return notify(
      'caution',
      `${bus.name} pushes its limiter with a steady tone of ${hz} Hz. If that is feedback, turn the bus down in Sound.`,
    );
  command({ type: 'sound.hold', args: { bus: busId, db: HOLD_DB, hz: Math.min(24_000, hz) } });
  notify(
    'trouble',
    `${bus.name} howled${hz > 0 ? ` at ${hz} Hz` : ''} and was turned down by ${HOLD_DB} dB. Break the loop in Sound, under Routing, and release it.`,
    ({ air }) => !air.sound.held[busId],
  );
}

/** A device has gone, or come back where `cause` is empty. */
function deviceChanged({ state, command }: HostAccess, deviceId: string, cause: string): void {
  const now = state().desk;
  if ((now.air.sound.lostDevices[deviceId] ?? '') !== cause)
    command({ type: 'sound.reportDevice', args: { deviceId, cause: cause.slice(0, 300) } });
}

interface Following {
  /** The show has ended: nothing is done any more. */
  closed: () => boolean;
  /** The audio thread says often that it goes on. */
  beat: () => void;
}

/** Makes commands and notices of what the sound desk reports. Not at once: it reports in the middle of commands too. */
export function followSound(sound: Pick<SoundDesk, 'listen'>, host: HostAccess, { closed, beat }: Following): void {
  const later = (act: () => void) => queueMicrotask(() => void (closed() || act()));
  sound.listen({
    howl: (howl) => later(() => howled(host, howl)),
    device: (deviceId, cause) => later(() => deviceChanged(host, deviceId, cause)),
    beat,
  });
}
