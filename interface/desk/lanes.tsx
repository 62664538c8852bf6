/** The lanes over the picture: what each holds ready, and whether it is up. */
import { ChevronRight, Link2, Pause, Play, Plus, Settings2 } from 'lucide-react';
import { useCallback, useState } from 'react';
import { laneHoldsNew } from '#core/picture/plan';
import { createAirLane, laneFade, laneIsUp, lanePictures } from '#core/picture/air';
import { pictureName } from '#core/desk/pictures';
import { type Show } from '#core/desk/show';
import { type Clock } from '#core/graphics/document';
import { filledOf, findClock, findGraphic, type FoundGraphic, shownWords } from '#core/graphics/find';
import { drawnElements } from '#core/graphics/values';
import { type Lane } from '#core/picture/document';
import { formatTimeLeft } from '#core/time/duration';
import { useShow, useSend, useLive } from '../client/show-client';
import { useKeyName } from '../client/hands';
import { ClockFace } from '../graphics/clocks-panel';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { LaneContentSelect } from '../parts/picture-select';
import { TimeLeft } from '../parts/time-left';
import { later } from '../parts/later';

const LaneSettings = later(() => import('./lane-settings').then((m) => m.LaneSettings));

/** What a lane shows now and how it stands, as plain values. */
function useLaneState(lane: Lane) {
  return useLive(({ desk: { show, air }, frame }) => {
    const state = air.lanes[lane.id] ?? createAirLane();
    const top = lanePictures(state, frame).at(-1)?.picture;
    const up = laneIsUp(state, frame);
    const left = up && state.leaveAt !== null ? ((state.leaveAt - frame) * show.rate.den) / show.rate.num : null;
    const moving = state.picture !== null && frame < laneFade(state, frame).start + laneFade(state, frame).frames;
    return {
      up,
      armed: state.armed,
      moving,
      shownSource: top?.id ?? null,
      shown: top ? (top.kind === 'graphic' ? shownWords(top.shown, pictureName(show, top.id)) : pictureName(show, top.id)) : '',
      left: left === null ? '' : formatTimeLeft(left),
      ending: left !== null && left <= 10,
      holdsNew: up && laneHoldsNew(show, lane, state),
    };
  });
}

/** The clock that the graphic in a lane shows. */
function clockOf(show: Show, found: FoundGraphic): Clock | undefined {
  const shown = drawnElements(filledOf(found)).find(({ element }) => element.content.kind === 'clock');
  return shown?.element.content.kind === 'clock' ? findClock(show, shown.element.content.clockId) : undefined;
}

/** A clock in its lane: large, with a press to start and pause it. */
function LaneClock({ clock }: { clock: Clock }) {
  const send = useSend();
  const running = useShow(({ desk }) => (desk.air.graphics.clocks[clock.id]?.start ?? null) !== null);
  const keys = { keyFor: clock.number === null ? '' : 'clock.toggle', keyArgs: { number: clock.number ?? 0 } };
  const counted = clock.kind === 'down' || clock.kind === 'up';
  return (
    <span className="flex shrink-0 items-center gap-1">
      <ClockFace clock={clock} className="text-xl leading-none" />
      {counted && (
        <Button
          className="px-1.5!"
          {...keys}
          aria-label={`${running ? 'Pause' : 'Start'} ${clock.name}`}
          title={`${running ? 'Pause' : 'Start'} ${clock.name}`}
          onClick={() => send('clock.toggle', { clock: clock.id })}
        >
          {running ? <Pause size={14} /> : <Play size={14} />}
        </Button>
      )}
    </span>
  );
}

function LaneRow({ lane, index }: { lane: Lane; index: number }) {
  const send = useSend();
  const [open, setOpen] = useState(false);
  const close = useCallback(() => setOpen(false), []);
  const numbered = (action: string) => (lane.number === null ? '' : action);
  const at = { lane: lane.number ?? 0 };
  const key = useKeyName(numbered('lane.toggle'), at);
  const { clock, entries } = useShow(({ desk: { show } }) => {
    const found = findGraphic(show, lane.content?.id ?? null);
    return { clock: found && clockOf(show, found), entries: found?.entry ? found.graphic.entries.length : 0 };
  });
  const { up, armed, moving, shown, shownSource, left, ending, holdsNew } = useLaneState(lane);
  return (
    <li className={`border-b border-line px-2 py-1.5 ${up ? 'bg-air/10' : ''}`}>
      <div className="flex items-center gap-1.5">
        <span className="truncate font-semibold">{lane.name}</span>
        {key && <kbd className="figures text-[13px] text-muted">{key}</kbd>}
        {up && <span className="figures bg-air px-1 text-[13px] leading-tight font-semibold text-deep">{moving ? 'IN…' : 'AIR'}</span>}
        {!up && shown && <span className="figures border border-air px-1 text-[13px] leading-tight text-air">OUT…</span>}
        {left && <span className={`figures px-1 text-lg leading-none ${ending ? 'bg-caution font-semibold text-deep' : ''}`}>{left}</span>}
        <TimeLeft sourceId={shownSource} className="text-lg" />
        <IconButton label={`Set up ${lane.name}`} className="ml-auto" aria-expanded={open} onClick={() => setOpen(!open)}>
          <Settings2 size={15} />
        </IconButton>
        <Button
          className="px-1.5!"
          pressed={armed}
          title="With the next take"
          keyFor={numbered('lane.arm')}
          keyArgs={at}
          aria-label={`${lane.name} with the next take`}
          onClick={() => send('lane.arm', { lane: lane.id })}
        >
          <Link2 size={15} />
        </Button>
        <Button
          look={up ? 'air' : 'plain'}
          className="w-15"
          title={up ? 'Hide' : 'Show'}
          keyFor={numbered('lane.toggle')}
          keyArgs={at}
          aria-label={`${up ? 'Hide' : 'Show'} ${lane.name}`}
          onClick={() => send('lane.toggle', { lane: lane.id })}
        >
          {up ? 'Hide' : 'Show'}
        </Button>
      </div>
      <div className="mt-1 flex items-center gap-1.5">
        <LaneContentSelect
          label={`What ${lane.name} holds ready`}
          content={lane.content}
          onChange={(content) => send('lane.setContent', { lane: lane.id, content })}
        />
        {clock && <LaneClock clock={clock} />}
        {entries > 1 && (
          <Button
            className="px-1.5!"
            aria-label={`Next entry in ${lane.name}`}
            title="Next entry"
            onClick={() => send('lane.next', { lane: lane.id })}
          >
            <ChevronRight size={15} />
          </Button>
        )}
        {holdsNew && (
          <Button
            onClick={() => send('lane.show', { lane: lane.id })}
            title={`On air is ${shown}`}
            keyFor={numbered('lane.change')}
            keyArgs={at}
          >
            Change
          </Button>
        )}
      </div>
      {open && <LaneSettings lane={lane} index={index} onClose={close} />}
    </li>
  );
}

/** The lanes over the picture, the highest first. */
export function Lanes() {
  const send = useSend();
  const box = useRoving<HTMLElement>();
  const lanes = useShow(({ desk: { show } }) => show.lanes);
  return (
    <section ref={box} {...region('lanes', 'Lanes')} className="desk-part lanes flex max-h-[55%] shrink-0 flex-col">
      <div className="flex items-center px-2 py-1">
        <h2 className="font-semibold">Over the picture</h2>
        <Button
          look="quiet"
          className="ml-auto px-1.5!"
          aria-label="Add a lane"
          title="Add a lane over the others"
          onClick={() => send('lane.add')}
        >
          <Plus size={15} />
        </Button>
      </div>
      <ol className="min-h-0 overflow-y-auto">
        {lanes.map((lane, index) => <LaneRow key={lane.id} lane={lane} index={index} />).reverse()}
      </ol>
    </section>
  );
}
