/** Right of the table: the lanes with what is in them, and how the chosen entry will look. */
import { type Lane } from '#core/picture/document';
import { createAirLane, laneIsUp, lanePictures } from '#core/picture/air';
import { laneHoldsNew } from '#core/picture/plan';
import { pictureName } from '#core/desk/pictures';
import { shownWords } from '#core/graphics/find';
import { type Graphic } from '#core/graphics/document';
import { formatTimeLeft } from '#core/time/duration';
import { useLive, useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Monitor } from '../parts/monitor';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { setGraphicsRoom, useGraphicsRoom, workLane } from './room-state';

function LaneLine({ lane, chosen }: { lane: Lane; chosen: boolean }) {
  const send = useSend();
  const { up, shown, ready, left, news } = useLive(({ desk: { show, air }, frame }) => {
    const state = air.lanes[lane.id] ?? createAirLane();
    const top = lanePictures(state, frame).at(-1)?.picture;
    const isUp = laneIsUp(state, frame);
    const seconds = isUp && state.leaveAt !== null ? ((state.leaveAt - frame) * show.rate.den) / show.rate.num : null;
    return {
      up: isUp,
      shown: top ? (top.kind === 'graphic' ? shownWords(top.shown, pictureName(show, top.id)) : pictureName(show, top.id)) : '',
      ready: lane.content ? pictureName(show, lane.content.id) : '',
      left: seconds === null ? '' : formatTimeLeft(seconds),
      news: isUp && laneHoldsNew(show, lane, state),
    };
  });
  return (
    <li
      className={`border-b border-line px-2 py-1 ${up ? 'bg-air/10' : ''} ${chosen ? 'border-l-2 border-l-straw' : 'border-l-2 border-l-transparent'}`}
    >
      <div className="flex items-center gap-1">
        <Button
          look="quiet"
          className="min-w-0 flex-1 justify-start! px-0! font-semibold"
          pressed={chosen}
          title={`Work on ${lane.name}`}
          onClick={() => setGraphicsRoom({ laneId: lane.id })}
        >
          <span className="truncate">{lane.name}</span>
          {up && <span className="figures bg-air px-1 text-[13px] text-deep">AIR</span>}
          {left && <span className="figures text-lg leading-none">{left}</span>}
        </Button>
        <label className="flex items-center gap-1 text-xs text-muted" title="What is up shows edits of its entry at once">
          <input
            type="checkbox"
            aria-label={`${lane.name} follows edits`}
            checked={lane.follows}
            onChange={(e) => send('lane.set', { lane: lane.id, follows: e.target.checked })}
          />
          follows
        </label>
        {news && (
          <Button aria-label={`Change ${lane.name} on air`} onClick={() => send('lane.show', { lane: lane.id })}>
            Change
          </Button>
        )}
        <Button
          look={up ? 'air' : 'plain'}
          className="w-14"
          aria-label={`${up ? 'Hide' : 'Show'} ${lane.name}`}
          onClick={() => send('lane.toggle', { lane: lane.id })}
        >
          {up ? 'Hide' : 'Show'}
        </Button>
      </div>
      <p className="truncate text-xs">{up ? shown : <span className="text-muted">{ready ? `ready: ${ready}` : 'empty'}</span>}</p>
      {up && ready && news && <p className="truncate text-xs text-caution">comes with Change: {ready}</p>}
    </li>
  );
}

/** Lanes, highest first, and two pictures of what will be. */
export function FillSide({ graphic, pictureId }: { graphic: Graphic | undefined; pictureId: string | null }) {
  const lanes = useShow(({ desk }) => desk.show.lanes);
  const box = useRoving<HTMLElement>();
  const laneId = useGraphicsRoom((s) => s.laneId);
  const work = useShow(({ desk: { show } }) => workLane(show, laneId, graphic));
  return (
    <aside
      ref={box}
      {...region('lanes', 'Lanes')}
      className="flex min-h-0 w-80 shrink-0 flex-col overflow-y-auto border-l border-line max-wide:w-64 max-beside:w-full max-beside:overflow-visible max-beside:border-t max-beside:border-l-0"
    >
      <ol>{lanes.map((lane) => <LaneLine key={lane.id} lane={lane} chosen={lane.id === work} />).reverse()}</ol>
      {pictureId !== null && work !== null && (
        <div className="grid gap-1 p-2">
          {(['air', 'next'] as const).map((over) => (
            <figure key={over}>
              <figcaption className="text-xs text-muted">{over === 'air' ? 'As it will be over what is on air' : 'Over Next'}</figcaption>
              <Monitor
                picture={{ kind: 'over', over, laneId: work, id: pictureId }}
                label={over === 'air' ? 'Preview over what is on air' : 'Preview over Next'}
                className="aspect-video w-full bg-black"
              />
            </figure>
          ))}
        </div>
      )}
    </aside>
  );
}
