/** The room Desk: switching by hand. */
import { AirPanel } from './air-panel';
import { Lanes } from './lanes';
import { NextPanel } from './next-panel';
import { Shelf } from './shelf';
import { SoundRow } from './sound-row';
import { SourceList } from './source-list';
import { TakeRail } from './take-rail';
import './desk.css';

/** The room where a show is switched: pictures rise from Next to air. */
export function Desk() {
  return (
    <main className="desk">
      <h1 className="sr-only">Desk</h1>
      <SourceList />
      <div className="desk-centre">
        <AirPanel />
        <TakeRail />
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
