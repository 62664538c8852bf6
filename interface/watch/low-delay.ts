/** The programme with little delay, from the window that runs the show (WHEP). */
import { offerTo } from '#engine/peers/offer';

const AGAIN_MS = 2000;

/** Plays until the connection ends; resolves then. @throws Error in words where it is not given */
async function play(video: HTMLVideoElement, show: string, key: string, say: (text: string) => void): Promise<void> {
  const peer = new RTCPeerConnection();
  peer.addTransceiver('video', { direction: 'recvonly' });
  peer.addTransceiver('audio', { direction: 'recvonly' });
  const stream = new MediaStream();
  peer.ontrack = ({ track }) => stream.addTrack(track);
  video.srcObject = stream;
  const over = new Promise<void>((resolve) => {
    peer.onconnectionstatechange = () => {
      if (peer.connectionState === 'connected') say('Live');
      if (['failed', 'closed', 'disconnected'].includes(peer.connectionState)) resolve();
    };
  });
  const session = await offerTo(`/api/whep/${encodeURIComponent(show)}`, key, peer);
  const leave = () => void session.end();
  addEventListener('pagehide', leave);
  await over;
  removeEventListener('pagehide', leave);
  await session.end();
}

export async function followLowDelay(video: HTMLVideoElement, show: string, key: string, say: (text: string) => void): Promise<void> {
  for (;;) {
    try {
      await play(video, show, key, say);
      say('The connection has ended. This page tries again by itself.');
    } catch (error) {
      say(`${error instanceof Error ? error.message : String(error)} This page tries again by itself.`);
    }
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
  }
}
