/** The room Output. */
import { HealthCharts } from './health-charts';
import { AsRun } from './as-run';
import { RecordingPanel } from './recording-panel';
import { Recordings } from './recordings';
import { useRoving } from '../parts/roving';
import { region } from '../parts/region';
import { StreamPanel } from './stream-panel';
import { Viewers } from './viewers';

/** The room of everything that leaves: recording, stream, the log, and how the engine fares. */
export function OutputRoom() {
  const left = useRoving<HTMLDivElement>();
  return (
    <main className="grid h-(--room) grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)] grid-rows-[auto_minmax(0,1fr)] overflow-auto max-beside:block max-beside:h-auto">
      <h1 className="sr-only">Output</h1>
      <div
        ref={left}
        role="region"
        {...region('outputs', 'Recording, stream, engine')}
        className="row-span-2 flex min-w-0 flex-col gap-4 overflow-y-auto border-r border-line p-4"
      >
        <RecordingPanel />
        <StreamPanel />
        <Viewers />
        <HealthCharts />
      </div>
      <div
        role="region"
        {...region('recordings', 'Recordings and log')}
        className="row-span-2 flex min-h-0 min-w-0 flex-col gap-4 overflow-y-auto p-4"
      >
        <Recordings />
        <AsRun />
      </div>
    </main>
  );
}
