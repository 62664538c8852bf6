/** A monitor: a canvas in which the mixer shows a picture. */
import { useEffect, useRef } from 'react';
import { type MonitorPicture } from '#engine/picture/messages';
import { useShowClient } from '../client/show-client';

interface MonitorProps {
  picture: MonitorPicture;
  label: string;
  className?: string;
}

/** A picture from the mixer. The canvas belongs to the mixer's thread; React only makes room for it. */
export function Monitor({ picture, label, className }: MonitorProps) {
  const host = useShowClient();
  const box = useRef<HTMLDivElement>(null);
  const key = JSON.stringify(picture);
  useEffect(() => {
    const room = box.current;
    if (!room) return undefined;
    const canvas = document.createElement('canvas');
    canvas.className = 'block h-full w-full';
    // Without a name it stands beside words that say what it is.
    if (label === '') canvas.setAttribute('aria-hidden', 'true');
    else {
      canvas.setAttribute('role', 'img');
      canvas.setAttribute('aria-label', label);
    }
    canvas.width = 16;
    canvas.height = 9;
    room.append(canvas);
    const monitor = host.attachMonitor(canvas, JSON.parse(key) as MonitorPicture);
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const { width, height } = entry.contentRect;
      // A monitor need not be sharper than what the mixer can afford; one pixel each is enough to judge by.
      if (width >= 2 && height >= 2) monitor.resize(Math.min(1024, Math.round(width)), Math.min(1024, Math.round(height)));
    });
    observer.observe(room);
    return () => {
      observer.disconnect();
      monitor.detach();
      canvas.remove();
    };
  }, [host, key, label]);
  return <div ref={box} className={className} />;
}
