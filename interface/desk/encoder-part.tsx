/** A source that an encoder sends: its address and key, and a simulated encoder to try it with. */
import { Copy } from 'lucide-react';
import { useState } from 'react';
import { type Source } from '#core/show/source';
import { causeOf } from '#core/schema/cause';
import { type HttpSession, offerTo } from '#engine/peers/offer';
import { encoderStream } from '#standins/peers/simulated-encoder';
import { say } from '../client/say';
import { useShow, useShowClient } from '../client/show-client';
import { useWayLink } from '../parts/way-link';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';

/** Simulated encoders that send now, by their source: they go on while the dialog is closed. */
const senders = new Map<string, { session: HttpSession; stream: MediaStream }>();

async function simulate(showId: string, source: Source, key: string): Promise<void> {
  const stream = encoderStream(source.name);
  const peer = new RTCPeerConnection();
  for (const track of stream.getTracks()) peer.addTransceiver(track, { direction: 'sendonly', streams: [stream] });
  try {
    senders.set(source.id, { session: await offerTo(`/api/whip/${showId}/${source.id}`, key, peer), stream });
  } catch (error) {
    for (const track of stream.getTracks()) track.stop();
    peer.close();
    throw error;
  }
}

async function endSimulated(id: string): Promise<void> {
  const sender = senders.get(id);
  senders.delete(id);
  for (const track of sender?.stream.getTracks() ?? []) {
    track.stop();
    track.dispatchEvent(new Event('ended'));
  }
  await sender?.session.end();
}

export function EncoderPart({ source }: { source: Source }) {
  const { panel, showId } = useShowClient();
  const link = useWayLink('encoder', source.id, source.name, 'An encoder that has address and key sends this source.');
  const health = useShow(({ health: all }) => all[source.id]);
  const [sends, setSends] = useState(senders.has(source.id));
  const key = link.row?.secret ?? '';
  const copy = (text: string, what: string) =>
    void navigator.clipboard.writeText(text).then(
      () => void say.good(`${what} is copied.`, { id: 'encoder' }),
      () => void say.caution(`${what}: ${text}`, { id: 'encoder' }),
    );
  const toggle = async () => {
    try {
      if (sends) await endSimulated(source.id);
      else await simulate(showId, source, key);
      setSends(!sends);
    } catch (error) {
      say.caution(causeOf(error), { id: 'encoder' });
    }
  };
  if (panel) return <span className="text-muted">Address and key are known where the show runs.</span>;
  if (!link.row)
    return (
      <Button look="straw" onClick={() => void link.make()}>
        Make address and key
      </Button>
    );
  return (
    <div className="flex min-w-0 flex-1 flex-col gap-1.5">
      <p className="figures text-[13px] break-all select-all">{link.link}</p>
      <div className="flex flex-wrap gap-1">
        <Button onClick={() => copy(link.link, 'The address')}>
          <Copy size={14} /> Address
        </Button>
        <Button title="Sent as Authorization: Bearer" onClick={() => copy(key, 'The key')}>
          <Copy size={14} /> Key
        </Button>
        <Button pressed={sends} title="Something drawn is sent by the same way" onClick={() => void toggle()}>
          Simulate
        </Button>
        <HoldButton look="air" title="Hold: what is sent by it ends, and nothing more comes in" onHeld={() => void link.close()}>
          Withdraw
        </HoldButton>
      </div>
      <p role="status" className="text-[13px] text-muted">
        {health?.state === 'live' ? 'An encoder sends.' : 'Nothing is sent yet. Encoders that speak WHIP (RFC 9725) can.'}
      </p>
    </div>
  );
}
