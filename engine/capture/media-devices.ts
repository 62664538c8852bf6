/** What cameras, microphones and loudspeakers of the browser have in common: finding one again, and saying why it does not work. */
import { causeOf } from '#core/schema/cause';

const CAUSES: Record<string, string> = {
  NotAllowedError: 'the browser was not allowed to use it: allow it at the address bar',
  NotFoundError: 'it is not plugged in',
  NotReadableError: 'another program is using it, or it failed',
  OverconstrainedError: 'it does not offer what was asked of it',
  AbortError: 'it stopped answering',
  InvalidStateError: 'press Start on its tile: the browser asks which screen to show',
};

/** Why a device cannot be used, in plain words. */
export function deviceCause(error: unknown): string {
  const known = error instanceof DOMException ? CAUSES[error.name] : undefined;
  return known ?? causeOf(error);
}

/** The device by identity, or by label when its identity has changed; undefined when it is not there. */
export async function findDevice(kind: MediaDeviceKind, deviceId: string, label: string): Promise<MediaDeviceInfo | undefined> {
  const devices = (await navigator.mediaDevices.enumerateDevices()).filter((d) => d.kind === kind);
  return devices.find((d) => d.deviceId === deviceId) ?? devices.find((d) => label !== '' && d.label === label);
}
