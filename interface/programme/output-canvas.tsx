/** The frames of an output of a show that runs in another window of this browser. */
import { useEffect, useRef } from 'react';
import { viewOutput } from '#engine/panels/output-viewer';

interface Props {
  /** Null for whichever show runs. */
  showId: string | null;
  outputId: string;
  name: string;
  className?: string;
  /** Told when pictures come, and when none come any more. */
  onShown: (shown: boolean) => void;
}

export function OutputCanvas({ showId, outputId, name, className, onShown }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const told = useRef(onShown);
  useEffect(() => {
    told.current = onShown;
  }, [onShown]);
  useEffect(() => {
    const context = canvas.current?.getContext('2d', { alpha: false });
    const show = (frame: VideoFrame) => {
      const target = canvas.current;
      if (target && (target.width !== frame.displayWidth || target.height !== frame.displayHeight)) {
        target.width = frame.displayWidth;
        target.height = frame.displayHeight;
      }
      context?.drawImage(frame, 0, 0);
      frame.close();
      told.current(true);
    };
    const stop = viewOutput(showId, outputId, show, () => told.current(false));
    window.addEventListener('pagehide', stop);
    return () => {
      window.removeEventListener('pagehide', stop);
      stop();
    };
  }, [showId, outputId]);
  return <canvas ref={canvas} aria-label={name} role="img" className={className} style={{ objectFit: 'contain' }} />;
}
