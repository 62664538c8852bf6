/** The picture on air, with what is said about it. */
import { NO_TALLY } from '#core/picture/tally';
import { runningTransition } from '#core/picture/transition';
import { fadeLevel } from '#core/time/fade';
import { pictureName } from '#core/desk/pictures';
import { useLive } from '../client/show-client';
import { Monitor } from '../parts/monitor';
import { TallyFrame } from '../parts/tally-frame';
import { TimeLeft } from '../parts/time-left';

/** The programme, as it leaves. */
export function AirPanel() {
  const { name, onAirId, black, aspect } = useLive(({ desk: { show, air }, frame }) => {
    const running = runningTransition(air, frame);
    const to = pictureName(show, air.onAirId);
    return {
      name: running ? `${pictureName(show, running.fromId)} → ${to}` : to,
      onAirId: air.onAirId,
      black: Math.round(fadeLevel(air.black, frame) * 100),
      aspect: show.raster.width / show.raster.height,
    };
  });
  return (
    <section aria-label="On air" className="flex min-h-0 justify-center">
      <div className="relative h-full max-w-full bg-black" style={{ aspectRatio: aspect }}>
        <Monitor picture={{ kind: 'programme' }} label="Programme" className="h-full w-full" />
        <TallyFrame tally={{ ...NO_TALLY, onAir: onAirId !== null }} name={name} />
        <TimeLeft sourceId={onAirId} className="absolute right-[5px] bottom-[5px] text-3xl" />
        {black > 0 && (
          <p className="absolute inset-x-0 top-1/2 -translate-y-1/2 text-center">
            <span className="figures border-2 border-air bg-deep px-3 py-1 text-xl font-semibold text-air">
              {black >= 100 ? 'BLACK' : `BLACK ${black} %`}
            </span>
          </p>
        )}
      </div>
    </section>
  );
}
