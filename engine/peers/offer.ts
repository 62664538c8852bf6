/** The other end: makes an offer over HTTP with a key (WHIP, RFC 9725; WHEP alike) and takes its answer. */
import { gathered } from './gathered';

/** An open session; `end` says so to the other end. */
export interface HttpSession {
  end: () => Promise<void>;
}

/** @throws Error in words where the other end does not take it; its `retry` says whether it may later */
export async function offerTo(address: string, key: string, peer: RTCPeerConnection): Promise<HttpSession> {
  await peer.setLocalDescription(await peer.createOffer());
  await gathered(peer);
  const headers = { Authorization: `Bearer ${key}` };
  const answer = await fetch(address, {
    method: 'POST',
    headers: { ...headers, 'Content-Type': 'application/sdp' },
    body: peer.localDescription?.sdp ?? '',
  });
  if (answer.status !== 201) {
    const said = (await answer.json().catch(() => ({}))) as { message?: string };
    throw new Error(said.message ?? `The other end answers ${answer.status}.`);
  }
  const place = answer.headers.get('Location');
  await peer.setRemoteDescription({ type: 'answer', sdp: await answer.text() });
  return {
    end: async () => {
      peer.close();
      if (place !== null) await fetch(new URL(place, address), { method: 'DELETE', headers, keepalive: true }).catch(() => undefined);
    },
  };
}
