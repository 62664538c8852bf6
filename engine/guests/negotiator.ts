/**
 * Makes a connection between two ends that may both want to change it at any time: perfect negotiation (W3C WebRTC 1.0, section 10.7). One end is
 * polite and gives way when both offer at once. What is told may be late or twice; it does no harm. After a line that was down both ends are made anew.
 */
import { type Signal } from '#core/guests/line';

/** What is needed of an RTCPeerConnection. */
export type Peer = Pick<
  RTCPeerConnection,
  | 'signalingState'
  | 'localDescription'
  | 'setLocalDescription'
  | 'setRemoteDescription'
  | 'addIceCandidate'
  | 'onnegotiationneeded'
  | 'onicecandidate'
>;

export class Negotiator {
  private making = false;
  private ignores = false;
  /** An answer is being taken in: the state says "have-local-offer" until it is. */
  private settling = false;
  private closed = false;
  /** The last offer of the other end that was taken in. */
  private offered = '';
  /** What has come is taken in one after another. */
  private queue: Promise<void> = Promise.resolve();

  /** `failed` is told of what makes a connection impossible. */
  constructor(
    private readonly peer: Peer,
    private readonly polite: boolean,
    private readonly send: (signal: Signal) => void,
    private readonly failed: (error: unknown) => void = () => undefined,
  ) {
    peer.onnegotiationneeded = () => void this.offer();
    peer.onicecandidate = ({ candidate }) => {
      if (!this.closed)
        this.send({
          candidate: candidate && { candidate: candidate.candidate, sdpMid: candidate.sdpMid, sdpMLineIndex: candidate.sdpMLineIndex },
        });
    };
  }

  private async offer(): Promise<void> {
    try {
      this.making = true;
      await this.peer.setLocalDescription();
      this.tell();
    } catch (error) {
      if (!this.closed) this.failed(error);
    } finally {
      this.making = false;
    }
  }

  private tell(): void {
    const description = this.peer.localDescription;
    if (description && !this.closed) this.send({ description: { type: description.type, sdp: description.sdp } });
  }

  /** Takes in what the other end says. */
  take(signal: Signal): Promise<void> {
    this.queue = this.queue.then(() => this.read(signal)).catch((error: unknown) => void (!this.closed && this.failed(error)));
    return this.queue;
  }

  private async read(signal: Signal): Promise<void> {
    if (this.closed) return;
    const { peer } = this;
    if ('candidate' in signal) {
      try {
        await peer.addIceCandidate(signal.candidate ?? undefined);
      } catch (error) {
        // Of an offer that was passed over, or of a connection that was made anew meanwhile.
        if (!this.ignores && signal.candidate === null) throw error;
      }
      return;
    }
    const { description } = signal;
    // Said twice: each offer of an end has a version of its own (RFC 8866, o=).
    if (description.type === 'offer' && description.sdp === this.offered) return;
    const free = !this.making && (peer.signalingState === 'stable' || this.settling);
    const collides = description.type === 'offer' && !free;
    this.ignores = !this.polite && collides;
    if (this.ignores) return;
    // An answer to an offer that was taken back, or that came twice.
    if (description.type === 'answer' && peer.signalingState !== 'have-local-offer') return;
    if (description.type === 'offer') this.offered = description.sdp;
    this.settling = description.type === 'answer';
    try {
      await peer.setRemoteDescription(description);
    } finally {
      this.settling = false;
    }
    if (description.type !== 'offer') return;
    await peer.setLocalDescription();
    this.tell();
  }

  close(): void {
    this.closed = true;
    this.peer.onnegotiationneeded = null;
    this.peer.onicecandidate = null;
  }
}
