/** The picture that comes next, and what the next take changes. */
import { takeSummary } from '#core/picture/summary';
import { NO_TALLY } from '#core/picture/tally';
import { pictureName } from '#core/desk/pictures';
import { useShow, useLive } from '../client/show-client';
import { Monitor } from '../parts/monitor';
import { TallyFrame } from '../parts/tally-frame';
import { TimeLeft } from '../parts/time-left';

const AREA: Record<string, string> = { picture: 'Picture', lane: 'Lane', sound: 'Sound', player: 'Plays', notice: 'Now' };

/** What comes next, and everything that the take will change. */
export function NextPanel() {
  const { nextId, name, aspect } = useShow(({ desk: { show, air } }) => ({
    nextId: air.nextId,
    name: pictureName(show, air.nextId),
    aspect: show.raster.width / show.raster.height,
  }));
  // One string per line keeps this from rendering again at every frame.
  const lines = useLive(({ desk: { show, air }, frame }) => takeSummary(show, air, frame).map((c) => `${c.area}\n${c.text}`));
  const areas = [...new Set(lines.map((line) => line.split('\n')[0] ?? ''))];
  return (
    <section aria-label="Next" className="desk-part next flex min-h-0 gap-2">
      <div className="relative shrink-0 self-start bg-black" style={{ aspectRatio: aspect, height: 'var(--next-height)' }}>
        <Monitor picture={{ kind: 'next' }} label="Next" className="h-full w-full" />
        <TallyFrame tally={{ ...NO_TALLY, next: nextId !== null }} name={name} />
        <TimeLeft sourceId={nextId} className="absolute right-1 bottom-1 text-xl" />
      </div>
      <div className="min-h-0 min-w-0 flex-1 overflow-y-auto">
        <h2 className="text-xs font-semibold text-muted">The take will change</h2>
        <ul aria-label="The take will change" className="mt-1 flex flex-col gap-1">
          {areas.map((area) => (
            <li key={area} className="leading-snug">
              <span className="text-xs text-straw">{AREA[area]}</span>
              {lines
                .filter((line) => line.startsWith(`${area}\n`))
                .map((line) => (
                  <p key={line}>{line.slice(area.length + 1)}</p>
                ))}
            </li>
          ))}
          {lines.length === 0 && <li className="text-muted">Nothing. Choose a source or layout for Next, or arm a lane.</li>}
        </ul>
      </div>
    </section>
  );
}
