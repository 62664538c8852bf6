/** Opens the demo show, and makes it first where there is none. */
import { useQuery } from '@tanstack/react-query';
import { Navigate, useSearchParams } from 'react-router';
import { listShows } from '#engine/storage/shows';
import { type Raster } from '#core/show/raster';
import { DEMO_NAME, DEMO_RASTER } from '#standins/show/demo-name';

/** Heights in which the demo can be asked for; its proportions are 16:9. */
const HEIGHTS = [360, 540, 720, 1080];

/** The size that `?height=` asks for: a small one for small machines. */
function sizeOf(asked: string | null): Raster {
  const height = Number(asked);
  return HEIGHTS.includes(height) ? { width: (height * 16) / 9, height } : DEMO_RASTER;
}

/** The address that the server prints: the demo show, made at the first visit and opened again after. */
export function DemoRoute({ makeDemo }: { makeDemo: (raster: Raster) => Promise<string> }) {
  const [params] = useSearchParams();
  const raster = sizeOf(params.get('height'));
  const demo = useQuery({
    queryKey: ['demo', raster.height],
    queryFn: async () => (await listShows()).find((s) => s.name === DEMO_NAME && s.raster.height === raster.height)?.id ?? makeDemo(raster),
    staleTime: Infinity,
  });
  if (demo.data) return <Navigate to={`/show/${demo.data}/desk`} replace />;
  return (
    <main className="grid h-full place-items-center" role="status">
      <p>{demo.error ? `The demo show cannot be made: ${demo.error.message}` : 'Opening the demo show…'}</p>
    </main>
  );
}
