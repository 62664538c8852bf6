/** One's own picture, as in a mirror. */
import { useEffect, useRef } from 'react';

export function OwnPicture({ stream, className }: { stream: MediaStream | null; className?: string }) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    if (video.current) video.current.srcObject = stream;
  }, [stream]);
  return (
    <video ref={video} className={`-scale-x-100 bg-deep object-contain ${className ?? ''}`} autoPlay muted playsInline aria-label="You" />
  );
}
