import { useQuery } from '@tanstack/react-query';
import { Navigate } from 'react-router';
import { listShows } from '#engine/storage/shows';
import { DEMO_NAME } from '#standins/show/demo';

/** The address that the server prints: the demo show, made at the first visit and opened again after. */
export function DemoRoute({ makeDemo }: { makeDemo: () => Promise<string> }) {
  const demo = useQuery({
    queryKey: ['demo'],
    queryFn: async () => (await listShows()).find((s) => s.name === DEMO_NAME)?.id ?? makeDemo(),
    staleTime: Infinity,
  });
  if (demo.data) return <Navigate to={`/show/${demo.data}/desk`} replace />;
  return (
    <main className="grid h-full place-items-center" role="status">
      <p>{demo.error ? `The demo show cannot be made: ${demo.error.message}` : 'Opening the demo show…'}</p>
    </main>
  );
}
