/** The room Desk: switching by hand. */
import { useEffect, useRef } from 'react';
import { WANTED } from '../client/focus';
import { AirPanel } from './air-panel';
import { Lanes } from './lanes';
import { NextPanel } from './next-panel';
import { Shelf } from './shelf';
import { SoundRow } from './sound-row';
import { SourceList } from './source-list';
import { TakeRail } from './take-rail';
import { type DeskPart, DESK_PARTS, setDeskRoom, useDeskRoom } from './room-state';
import './desk.css';

const PART_NAMES: Record<DeskPart, string> = { next: 'Next', sources: 'Sources', lanes: 'Lanes', shelf: 'Shelf', sound: 'Sound' };

/** What is under the picture on air where there is room for one thing at a time. */
function Parts() {
  const part = useDeskRoom((s) => s.part);
  return (
    <nav className="desk-parts border-b border-line" aria-label="Parts of the Desk">
      {DESK_PARTS.map((of) => (
        <button
          key={of}
          type="button"
          aria-pressed={part === of}
          className={`min-h-11 min-w-0 flex-1 border-b-2 px-1 ${part === of ? 'border-straw' : 'border-transparent text-muted'}`}
          onClick={() => setDeskRoom({ part: of })}
        >
          {PART_NAMES[of]}
        </button>
      ))}
    </nav>
  );
}

/** The room where a show is switched: pictures rise from Next to air. */
export function Desk() {
  const part = useDeskRoom((s) => s.part);
  const room = useRef<HTMLElement>(null);
  useEffect(() => {
    const element = room.current;
    const wanted = ({ target }: Event) => {
      const name = target instanceof HTMLElement ? target.dataset.region : undefined;
      const found = DESK_PARTS.find((of) => of === name);
      if (found) setDeskRoom({ part: found });
    };
    element?.addEventListener(WANTED, wanted);
    return () => element?.removeEventListener(WANTED, wanted);
  }, []);
  return (
    <main ref={room} className="desk" data-part={part} data-one-part>
      <h1 className="sr-only">Desk</h1>
      <SourceList />
      <div className="desk-centre">
        <AirPanel />
        <TakeRail />
        <Parts />
        <NextPanel />
      </div>
      <aside className="desk-right" aria-label="Lanes and shelf">
        <Lanes />
        <Shelf />
      </aside>
      <SoundRow />
    </main>
  );
}
