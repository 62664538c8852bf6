/** The surfaces of the show. */
import { Plus } from 'lucide-react';
import { lookDifferences } from '#core/screens/look-words';
import { surfaceNow } from '#core/screens/air';
import { type Surface } from '#core/screens/surface';
import { showsWords } from '#core/screens/words';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { addSurface } from './edits';
import { chooseSurface } from './room-state';

export function SurfaceList({ chosen }: { chosen: Surface | undefined }) {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const air = useShow(({ desk }) => desk.air.screens);
  return (
    <>
      <div className="flex shrink-0 items-center gap-1 border-b border-line p-1.5">
        <h2 className="flex-1 px-1.5 text-sm font-semibold">Surfaces</h2>
        <Button title="New surface" keyFor="screens.newSurface" onClick={() => addSurface(client)}>
          <Plus size={15} /> Surface
        </Button>
      </div>
      <ul aria-label="Surfaces" className="shrink-0">
        {show.screens.surfaces.map((s) => {
          const { look, over } = surfaceNow(air, s.id, Infinity);
          const changes = lookDifferences(show, look, s.look).length;
          return (
            <li key={s.id} className={`border-b border-line ${s.id === chosen?.id ? 'bg-raised' : ''}`}>
              <button
                data-surface={s.id}
                aria-current={s.id === chosen?.id}
                className="block w-full px-3 py-1.5 text-left"
                onClick={() => chooseSurface(s.id)}
              >
                <span className="flex items-center gap-2">
                  <span className="min-w-0 flex-1 truncate font-semibold">{s.name}</span>
                  {over && <span className="rounded bg-caution px-1 text-[13px] font-semibold text-deep">{showsWords(show, over)}</span>}
                </span>
                <span className="flex gap-2 text-[13px] text-muted">
                  <span className="min-w-0 flex-1 truncate">
                    {s.screens.length} {s.screens.length === 1 ? 'screen' : 'screens'}
                  </span>
                  {changes > 0 && <span className="text-next">Next differs</span>}
                </span>
              </button>
            </li>
          );
        })}
        {show.screens.surfaces.length === 0 && (
          <li className="p-3 text-sm text-muted">
            Projectors and LED walls that belong together are one surface: a canvas on which pictures are placed.
          </li>
        )}
      </ul>
    </>
  );
}
