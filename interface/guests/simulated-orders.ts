/** What a simulated guest is told by the window that has opened it, and obeys: messages between pages of this server. */
import { type SimulatedOrder } from './simulated';

interface Obedient {
  speak(on: boolean): void;
  share(): Promise<MediaStream | null>;
  clap(on: boolean): void;
  /** Takes up what they hear with their microphone; null ends that. */
  echo(heard: MediaStream | null): void;
}

const ORDERS: readonly SimulatedOrder[] = ['speak', 'silent', 'share', 'unshare', 'lose', 'hand', 'echo', 'quiet', 'clap', 'leave'];

/** Does what the window around this page says. */
export function obeyOpener(guest: Obedient): void {
  window.addEventListener('message', ({ data, origin }: MessageEvent<{ simulatedGuest?: unknown } | null>) => {
    const order = ORDERS.find((o) => o === data?.simulatedGuest);
    const visit = window.bivocaVisit;
    if (origin !== window.location.origin || !order || !visit) return;
    if (order === 'speak' || order === 'silent') guest.speak(order === 'speak');
    if (order === 'share') void guest.share().then((stream) => visit.share(stream));
    if (order === 'unshare') visit.share(null);
    if (order === 'clap') guest.clap(true);
    if (order === 'echo') guest.echo(visit.store.getState().back);
    if (order === 'quiet') guest.echo(null);
    if (order === 'lose') visit.lose();
    if (order === 'hand') visit.say({ hand: !visit.store.getState().hand });
    if (order === 'leave') visit.leave();
  });
}
