/** The outputs of the show: what each shows, and whether its window is open. */
import { Plus } from 'lucide-react';
import { framesPerSecond } from '#core/time/rate';
import { useLive, useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { chooseOutput } from './room-state';
import { showsWords } from '#core/screens/words';
import { addOutput } from './edits';
import { type ScreenOutput } from '#core/screens/document';
import { coverOf } from '#core/screens/outputs';

/** Whether the window of an output is open; and its frames, where there is not time for all. */
function Window({ output: { id, frameStep }, open }: { output: ScreenOutput; open: boolean }) {
  const full = useShow(({ desk }) => framesPerSecond(desk.show.rate)) / frameStep;
  const rate = useLive(({ mixer }) => mixer.screens[id] ?? null);
  if (open && rate !== null && rate < full * 0.9)
    return (
      <span
        className="figures text-caution"
        title="There is not time for every frame: the programme comes first. Fewer pixels are quicker."
      >
        {Math.round(rate)} of {Math.round(full)}/s
      </span>
    );
  return <span className={open ? 'text-next' : ''}>{open ? 'window open' : 'no window'}</span>;
}

export function OutputList({ chosen, open }: { chosen: ScreenOutput | undefined; open: readonly string[] }) {
  const client = useShowClient();
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const screens = useShow(({ desk }) => desk.air.screens);
  const { outputs } = show.screens;
  const none = outputs.length === 0 ? 'There is no output yet.' : null;
  const covered = outputs.some((o) => coverOf(screens, o.id));
  return (
    <>
      <div className="flex shrink-0 flex-wrap items-center gap-1 border-b border-line p-1.5">
        <h2 className="flex-1 px-1.5 text-sm font-semibold">Outputs</h2>
        <Button title="New output" keyFor="screens.new" onClick={() => addOutput(client)}>
          <Plus size={15} /> Output
        </Button>
        <Button
          title="Every output shows its name, its pixels and its display"
          keyFor="screens.cards"
          unusable={none}
          onClick={() => send('screen.over', { outputs: [], over: { kind: 'card' } })}
        >
          All cards
        </Button>
        <Button
          title="Every output shows what it shows otherwise"
          keyFor="screens.releaseAll"
          unusable={none ?? (covered ? null : 'Nothing covers them.')}
          onClick={() => send('screen.over', { outputs: [], over: null })}
        >
          Release all
        </Button>
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Outputs">
        {outputs.map((o) => {
          const instead = coverOf(screens, o.id);
          return (
            <li key={o.id} className={`border-b border-line ${o.id === chosen?.id ? 'bg-raised' : ''}`}>
              <button
                data-output={o.id}
                aria-current={o.id === chosen?.id}
                className="block w-full px-3 py-1.5 text-left"
                onClick={() => chooseOutput(o.id)}
              >
                <span className="flex items-center gap-2">
                  <span className="min-w-0 flex-1 truncate font-semibold">{o.name}</span>
                  {instead && (
                    <span className="rounded bg-caution px-1 text-[13px] font-semibold text-deep">{showsWords(show, instead)}</span>
                  )}
                </span>
                <span className="flex flex-wrap items-center gap-x-2 text-[13px] text-muted">
                  <span className="min-w-18 flex-1 truncate">{showsWords(show, o.shows)}</span>
                  {o.raster && <span className="figures">{`${o.raster.width}×${o.raster.height}`}</span>}
                  <Window output={o} open={open.includes(o.id)} />
                </span>
              </button>
            </li>
          );
        })}
        {outputs.length === 0 && (
          <li className="p-3 text-sm text-muted">
            No outputs yet. Programme and clean programme always leave; an output of its own shows either of them, or another picture, on a
            display in the foyer or the hall. Add one with Output.
          </li>
        )}
      </ul>
    </>
  );
}
