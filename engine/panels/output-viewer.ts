/** Shows an output of a show that runs in another window of this browser, however that window was opened. */
import { type FromViewer, type PlanesMessage } from '../picture/plane-outlet';
import { openBroker } from './broker';
import { type ToBroker } from './messages';

/** A show that sends nothing for so long is asked again, milliseconds: its window may have been opened anew. */
const SILENT_MS = 3000;

/**
 * Calls `receive` for every picture of the output, which owns it; and `silent` when none come. `showId` null takes whichever show runs.
 * Returns how to end it.
 */
export function viewOutput(showId: string | null, outputId: string, receive: (frame: VideoFrame) => void, silent: () => void): () => void {
  const broker = openBroker();
  let line: MessagePort | null = null;
  let heardAt = performance.now();
  const leave = () => {
    line?.postMessage('end' satisfies FromViewer);
    line?.close();
    line = null;
  };
  const ask = () => {
    leave();
    const { port1, port2 } = new MessageChannel();
    line = port1;
    port1.onmessage = ({ data }: MessageEvent<PlanesMessage>) => {
      heardAt = performance.now();
      port1.postMessage('taken' satisfies FromViewer);
      receive(new VideoFrame(data.planes, data.init));
    };
    broker.postMessage({ type: 'want', showId, outputId, port: port2 } satisfies ToBroker, [port2]);
  };
  const timer = setInterval(() => {
    if (performance.now() - heardAt < SILENT_MS) return;
    heardAt = performance.now();
    silent();
    ask();
  }, 1000);
  ask();
  return () => {
    clearInterval(timer);
    leave();
    broker.close();
  };
}
