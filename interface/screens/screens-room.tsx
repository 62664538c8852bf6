/** The room Screens: the outputs of the show, what each shows, and the windows that they stand in. */
import { useEffect } from 'react';
import { coverOf, outputNow } from '#core/screens/outputs';
import { type ScreenOutput } from '#core/screens/document';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Monitor } from '../parts/monitor';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { useWindows } from '../programme/use-windows';
import { findKnownDisplays } from './displays';
import { nextTest, openTechnician, openWindow, toggleOver } from './edits';
import { OutputAreas } from './output-areas';
import { OutputForm } from './output-form';
import { OutputList } from './output-list';
import { chosenOutput, chosenSurface, useScreensRoom } from './room-state';
import { SurfaceBelow } from './surface-below';
import { SurfaceList } from './surface-list';
import { SurfaceSide } from './surface-side';
import { SurfaceStage } from './surface-stage';
import { showsWords } from '#core/screens/words';
import { COLUMNS } from '../parts/columns';

/** The output as it leaves, in its own shape, and what can be put over it. */
function Stage({ output, open }: { output: ScreenOutput; open: boolean }) {
  const client = useShowClient();
  const tools = useRoving<HTMLDivElement>();
  const show = useShow(({ desk }) => desk.show);
  const screens = useShow(({ desk }) => desk.air.screens);
  const { shows } = outputNow(show, screens, output);
  const over = coverOf(screens, output.id);
  const own = output.raster ?? show.raster;
  // Test pictures, cards and parts of surfaces are drawn in the output's own shape, all else in the show's.
  const drawn = shows.kind === 'test' || shows.kind === 'card' || shows.kind === 'surface' ? own : show.raster;
  return (
    <>
      <header className="flex shrink-0 flex-wrap items-center gap-2 p-2">
        <h2 className="min-w-0 truncate text-lg font-semibold">{output.name}</h2>
        <span className="text-sm text-muted">
          {showsWords(show, shows)} ·{' '}
          <span className="figures">
            {own.width}×{own.height}
          </span>
        </span>
        <div ref={tools} className="ml-auto flex gap-1" role="group" aria-label="Over the output">
          <Button
            look="straw"
            keyFor="screens.window"
            title={open ? 'Bring its window to the front' : 'Open its window'}
            onClick={() => openWindow(client, output)}
          >
            {open ? 'To its window' : 'Open window'}
          </Button>
          <Button
            keyFor="screens.technician"
            title="A window with this output large and what can be put over it, for the technician"
            onClick={() => openTechnician(client, output)}
          >
            Technician
          </Button>
          <Button keyFor="screens.card" pressed={over?.kind === 'card'} onClick={() => toggleOver(client, output, { kind: 'card' })}>
            Card
          </Button>
          <Button
            keyFor="screens.test"
            pressed={over?.kind === 'test'}
            title="The next test picture; after the last, what it shows otherwise"
            onClick={() => nextTest(client, output)}
          >
            Test
          </Button>
          <Button
            keyFor="screens.freeze"
            pressed={over?.kind === 'frozen'}
            title="It keeps the frame that it shows"
            onClick={() => toggleOver(client, output, { kind: 'frozen' })}
          >
            Freeze
          </Button>
          <Button keyFor="screens.black" pressed={over?.kind === 'black'} onClick={() => toggleOver(client, output, { kind: 'black' })}>
            Black
          </Button>
        </div>
      </header>
      <div className="grid min-h-0 flex-1 place-items-center p-3" style={{ containerType: 'size' }}>
        <div
          className="relative grid place-items-center bg-black outline outline-line"
          style={{ aspectRatio: `${own.width} / ${own.height}`, width: `min(100cqw, ${(100 * own.width) / own.height}cqh)` }}
        >
          <div
            style={{
              aspectRatio: `${drawn.width} / ${drawn.height}`,
              width: `${Math.min(1, (drawn.width * own.height) / (drawn.height * own.width)) * 100}%`,
            }}
          >
            <Monitor picture={{ kind: 'output', id: output.id }} label={`${output.name} as it leaves`} className="h-full w-full" />
          </div>
          <OutputAreas outputId={output.id} raster={own} />
        </div>
      </div>
    </>
  );
}

export function ScreensRoom() {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const { what, outputId, surfaceId } = useScreensRoom();
  const open = useWindows(client.showId);
  const chosen = what === 'surface' ? chosenSurface(show, surfaceId) : undefined;
  const output = chosen ? undefined : chosenOutput(show, outputId);
  useEffect(() => void findKnownDisplays(), []);
  return (
    <main className={`${COLUMNS} h-(--room) grid-cols-[236px_minmax(0,1fr)_304px] max-wide:grid-cols-[188px_minmax(0,1fr)_256px]`}>
      <h1 className="sr-only">Screens</h1>
      <nav className="flex min-h-0 flex-col border-r border-line" {...region('outputs', 'Outputs')}>
        <SurfaceList chosen={chosen} />
        <OutputList chosen={output} open={open} />
      </nav>
      <section className="flex min-h-0 min-w-0 flex-col max-beside:h-[90vh]" {...region('stage', chosen ? 'The surface' : 'The output')}>
        {chosen ? (
          <>
            <SurfaceStage key={chosen.id} surface={chosen} />
            <SurfaceBelow surface={chosen} />
          </>
        ) : output ? (
          <Stage key={output.id} output={output} open={open.includes(output.id)} />
        ) : (
          <p className="m-auto max-w-prose p-6 text-muted">
            What leaves besides programme and clean programme stands here: a picture for the foyer, the hall, a stage; and the projectors
            and LED walls of a venue as one surface. Add an output, choose what it shows, and open its window on a display.
          </p>
        )}
      </section>
      <aside className="min-h-0 overflow-y-auto border-l border-line" {...region('output', chosen ? 'Numbers' : 'Settings of the output')}>
        {chosen ? (
          <SurfaceSide surface={chosen} />
        ) : (
          output && <OutputForm key={output.id} output={output} open={open.includes(output.id)} />
        )}
      </aside>
    </main>
  );
}
