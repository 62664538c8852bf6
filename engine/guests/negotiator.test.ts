/** Perfect negotiation between fakes: both at once, late, twice, and with a line that is down in between. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type Signal } from '#core/guests/line';
import { Negotiator, type Peer } from './negotiator';

/** As much of a connection as negotiation is about: its states (RFC 8829), with rollback. */
class FakePeer {
  signalingState: RTCSignalingState = 'stable';
  localDescription: { type: RTCSdpType; sdp: string } | null = null;
  onnegotiationneeded: (() => void) | null = null;
  onicecandidate: unknown = null;
  restarts = 0;
  /** The offer that both have come to. */
  agreed = '';
  private offers = 0;
  private remote = '';

  constructor(private readonly name: string) {}

  setLocalDescription(): Promise<void> {
    if (this.signalingState === 'have-remote-offer') {
      this.localDescription = { type: 'answer', sdp: `to ${this.remote}` };
      this.agreed = this.remote;
      this.signalingState = 'stable';
    } else {
      this.offers += 1;
      this.localDescription = { type: 'offer', sdp: `${this.name} ${this.offers}` };
      this.signalingState = 'have-local-offer';
    }
    return Promise.resolve();
  }

  setRemoteDescription({ type, sdp }: { type: string; sdp: string }): Promise<void> {
    if (type === 'offer') {
      // Rolls its own offer back, as `setRemoteDescription` does.
      this.remote = sdp;
      this.signalingState = 'have-remote-offer';
    } else if (this.signalingState !== 'have-local-offer') return Promise.reject(new Error('no offer'));
    else if (sdp !== `to ${this.localDescription?.sdp}`) return Promise.reject(new Error('an answer to another offer'));
    else {
      this.agreed = this.localDescription?.sdp ?? '';
      this.signalingState = 'stable';
    }
    return Promise.resolve();
  }

  addIceCandidate(): Promise<void> {
    return this.remote === '' && this.agreed === '' ? Promise.reject(new Error('no description')) : Promise.resolve();
  }

  restartIce(): void {
    this.restarts += 1;
    this.onnegotiationneeded?.();
  }

  /** Something has changed, such as a screen that is shared. */
  need(): void {
    if (this.signalingState === 'stable') this.onnegotiationneeded?.();
  }
}

const settle = async () => {
  for (let i = 0; i < 20; i += 1) await Promise.resolve();
};

function pair() {
  const [host, guest] = [new FakePeer('host'), new FakePeer('guest')];
  const posts: { to: 'host' | 'guest'; signal: Signal }[] = [];
  const failures: unknown[] = [];
  const ends = {
    host: new Negotiator(
      host as unknown as Peer,
      false,
      (signal) => posts.push({ to: 'guest', signal }),
      (e) => failures.push(e),
    ),
    guest: new Negotiator(
      guest as unknown as Peer,
      true,
      (signal) => posts.push({ to: 'host', signal }),
      (e) => failures.push(e),
    ),
  };
  const deliver = async () => {
    while (posts.length > 0) {
      const { to, signal } = posts.shift()!;
      await ends[to].take(signal);
      await settle();
    }
  };
  return { host, guest, posts, failures, ends, deliver };
}

it('comes to one agreement when both offer at once: the polite one gives way', async () => {
  const { host, guest, failures, deliver } = pair();
  host.need();
  guest.need();
  await settle();
  await deliver();
  expect([host.signalingState, guest.signalingState]).toEqual(['stable', 'stable']);
  expect(host.agreed).toBe(guest.agreed);
  expect(host.agreed).toBe('host 1');
  expect(failures).toEqual([]);
});

it('is harmed by nothing that is lost, late or said twice: after a new start of the line both agree', async () => {
  const act = fc.constantFrom('host needs', 'guest needs', 'one', 'lose', 'twice', 'candidate');
  await fc.assert(
    fc.asyncProperty(fc.array(act, { maxLength: 30 }), async (acts) => {
      const { host, guest, posts, ends, deliver } = pair();
      for (const what of acts) {
        if (what === 'host needs') host.need();
        if (what === 'guest needs') guest.need();
        if (what === 'candidate') await ends.guest.take({ candidate: { candidate: 'x', sdpMid: '0', sdpMLineIndex: 0 } });
        if (what === 'lose') posts.shift();
        if (what === 'twice' && posts[0]) posts.splice(1, 0, posts[0]);
        if (what === 'one' && posts[0]) {
          const { to, signal } = posts.shift()!;
          await ends[to].take(signal);
        }
        await settle();
      }
      posts.splice(0);
      // The line is new: each says again what it still waits for.
      ends.host.again();
      await settle();
      await deliver();
      ends.guest.again();
      await settle();
      await deliver();
      host.need();
      await settle();
      await deliver();
      expect([host.signalingState, guest.signalingState]).toEqual(['stable', 'stable']);
      expect(host.agreed).toBe(guest.agreed);
    }),
    { numRuns: 300 },
  );
});

it('says nothing once it is closed', async () => {
  const { host, posts, ends } = pair();
  ends.host.close();
  host.need();
  await ends.host.take({ description: { type: 'offer', sdp: 'x' } });
  await settle();
  expect(posts).toEqual([]);
  expect(host.signalingState).toBe('stable');
});
