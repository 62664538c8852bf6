/** Streams of pictures that are drawn here, of the shape of a camera's. */

/** Calls at an even pace from a worker's timer, which goes on in a page that is not looked at. */
function everyFrame(rate: number, act: () => void): () => void {
  const source = `setInterval(() => postMessage(0), ${1000 / rate})`;
  const url = URL.createObjectURL(new Blob([source], { type: 'text/javascript' }));
  const worker = new Worker(url);
  worker.onmessage = act;
  return () => {
    worker.terminate();
    URL.revokeObjectURL(url);
  };
}

/** A stream of `width` × `height` pixels, drawn `rate` times a second until its track is stopped. */
export function drawnStream(width: number, height: number, rate: number, draw: (context: CanvasRenderingContext2D) => void): MediaStream {
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width, height });
  const context = canvas.getContext('2d', { alpha: false });
  const stream = canvas.captureStream(0);
  const [track] = stream.getVideoTracks() as CanvasCaptureMediaStreamTrack[];
  const end = everyFrame(rate, () => {
    if (!context || track?.readyState !== 'live') return end();
    draw(context);
    track.requestFrame();
    return undefined;
  });
  return stream;
}
