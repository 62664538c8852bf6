/** Perfect negotiation between fakes: both at once, late, twice, and ends that are made anew after a line that was down. */
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

it('is harmed by nothing that is late or said twice, nor by a line that loses all: ends that are made anew agree', async () => {
  const act = fc.constantFrom('host needs', 'guest needs', 'one', 'twice', 'candidate', 'line down');
  await fc.assert(
    fc.asyncProperty(fc.array(act, { maxLength: 30 }), async (acts) => {
      let both = pair();
      for (const what of acts) {
        const { host, guest, posts, ends } = both;
        if (what === 'host needs') host.need();
        if (what === 'guest needs') guest.need();
        if (what === 'candidate') await ends.guest.take({ candidate: { candidate: 'x', sdpMid: '0', sdpMLineIndex: 0 } });
        if (what === 'twice' && posts[0]) posts.splice(1, 0, posts[0]);
        if (what === 'one' && posts[0]) {
          const { to, signal } = posts.shift()!;
          await ends[to].take(signal);
        }
        await settle();
        if (what !== 'line down') continue;
        for (const end of Object.values(ends)) end.close();
        both = pair();
      }
      both.host.need();
      await settle();
      await both.deliver();
      expect([both.host.signalingState, both.guest.signalingState]).toEqual(['stable', 'stable']);
      expect(both.host.agreed).toBe(both.guest.agreed);
    }),
    { numRuns: 1000 },
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
