/** Camera, microphone and screen of a guest, and what to do when one cannot be used, in words for people who have never done this. */

import { type GuestChoice, type GuestDevice, type GuestDevices } from './driver';

const WORDS: Readonly<Record<string, string>> = {
  NotAllowedError:
    'The browser may not use your camera and microphone. Press the sign beside the address, allow both, and press Try again.',
  NotFoundError: 'No camera and no microphone was found. Plug one in, and press Try again.',
  NotReadableError: 'Your camera or microphone is used by something else. Close other programs and pages that use it, and press Try again.',
  OverconstrainedError: 'The chosen camera or microphone is not there any more. Choose another.',
};

/** What to do about a device that cannot be opened. */
function deviceHelp(error: unknown): string {
  const name = error instanceof Error ? error.name : '';
  return WORDS[name] ?? `Camera and microphone cannot be used: ${error instanceof Error ? error.message : String(error)}`;
}

/** Why this browser cannot take part; null when it can. */
export function whyNotHere(): string | null {
  if (!window.isSecureContext)
    return 'This address begins with http: browsers open cameras over https only. Open the link that begins with https, as it was sent.';
  if (typeof RTCPeerConnection === 'undefined' || !navigator.mediaDevices)
    return 'This browser is too old to take part. Use a current Chrome, Edge, Firefox or Safari.';
  return null;
}

const exact = (id: string): MediaTrackConstraints => (id === '' ? {} : { deviceId: { exact: id } });

async function open({ camera, microphone }: GuestChoice): Promise<MediaStream> {
  const video: MediaTrackConstraints = { ...exact(camera), width: { ideal: 1280 }, height: { ideal: 720 }, frameRate: { ideal: 30 } };
  const audio: MediaTrackConstraints = { ...exact(microphone), echoCancellation: true, noiseSuppression: true, autoGainControl: true };
  try {
    return await navigator.mediaDevices.getUserMedia({ video, audio });
  } catch (error) {
    // Without one of them, the other is still worth having.
    if (error instanceof Error && error.name === 'NotFoundError')
      for (const only of [{ audio }, { video }]) {
        const stream = await navigator.mediaDevices.getUserMedia(only).catch(() => null);
        if (stream) return stream;
      }
    throw new Error(deviceHelp(error), { cause: error });
  }
}

async function list(): Promise<GuestDevice[]> {
  const all = await navigator.mediaDevices.enumerateDevices();
  return all.flatMap(({ kind, deviceId, label }) => (deviceId === '' ? [] : [{ kind, id: deviceId, name: label || 'Unnamed' }]));
}

async function share(): Promise<MediaStream | null> {
  try {
    return await navigator.mediaDevices.getDisplayMedia({ video: true, audio: true });
  } catch (error) {
    if (error instanceof Error && error.name === 'NotAllowedError') return null;
    throw new Error('Screens cannot be shared from this browser.', { cause: error });
  }
}

export const browserGuestDevices: GuestDevices = { open, list, share };
