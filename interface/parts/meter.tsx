import { useEffect, useRef } from 'react';
import { METER_FLOOR_DB } from '#core/sound/meter';
import { useHost } from '../host/host-context';

const share = (db: number) => Math.max(0, Math.min(1, (db - METER_FLOOR_DB) / -METER_FLOOR_DB));
const across = (db: number) => `translateX(${(share(db) * 100).toFixed(1)}%)`;

/** Held peaks from here on are shown as over, dBFS. */
const OVER_DB = -1.2;

/** Peak meter of a channel, left and right, with held peaks. Moves outside React, every second mixed frame. */
export function Meter({ id, label, className }: { id: string; label: string; className?: string }) {
  const host = useHost();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const bars = [...(box.current?.querySelectorAll<HTMLElement>('[data-bar]') ?? [])];
    const peaks = [...(box.current?.querySelectorAll<HTMLElement>('[data-peak]') ?? [])];
    let turn = false;
    const stop = host.onTick(() => {
      turn = !turn;
      if (turn) return;
      host.sound.readings.get(id)?.forEach((reading, side) => {
        const [bar, peak] = [bars[side], peaks[side]];
        // Only transforms: nothing is laid out or painted again.
        if (bar) bar.style.transform = across(reading.level);
        if (!peak) return;
        peak.style.transform = across(reading.peak);
        const over = String(reading.peak > OVER_DB);
        if (peak.dataset.over !== over) peak.dataset.over = over;
      });
    });
    // For screen readers once a second: nobody hears 25 values.
    const spoken = setInterval(() => {
      const readings = host.sound.readings.get(id);
      if (readings) box.current?.setAttribute('aria-valuenow', String(Math.round(Math.max(readings[0].level, readings[1].level))));
    }, 1000);
    return () => {
      stop();
      clearInterval(spoken);
    };
  }, [host, id]);
  return (
    <div ref={box} role="meter" aria-label={label} aria-valuemin={METER_FLOOR_DB} aria-valuemax={0} aria-valuenow={METER_FLOOR_DB} className={className}>
      {[0, 1].map((side) => (
        <div key={side} className="relative mb-px h-[5px] overflow-hidden" style={{ background: 'linear-gradient(90deg, #3f9c86 0 66%, #d9b25a 66% 90%, #ff5a4f 90%)' }}>
          <div data-bar className="absolute inset-0 bg-deep will-change-transform" />
          <div data-peak className="group/peak absolute inset-0 will-change-transform">
            <div className="h-full w-0.5 bg-text group-data-[over=true]/peak:bg-air" />
          </div>
        </div>
      ))}
    </div>
  );
}
