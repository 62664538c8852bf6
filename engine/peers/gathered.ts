/** Longest that candidates are gathered, milliseconds: those of this machine's own addresses come at once. */
const GATHER_MS = 1500;

/** Resolves when the description has its candidates, or no more are waited for: over HTTP it goes as one. */
export const gathered = (peer: RTCPeerConnection): Promise<void> =>
  new Promise((resolve) => {
    if (peer.iceGatheringState === 'complete') return resolve();
    const timer = setTimeout(resolve, GATHER_MS);
    peer.addEventListener('icegatheringstatechange', () => {
      if (peer.iceGatheringState !== 'complete') return;
      clearTimeout(timer);
      resolve();
    });
    return undefined;
  });
