/** What is at hand: layouts, framings, seats, graphics, clips. */
import { Link } from 'react-router';
import { useShow } from '../client/show-client';
import { PictureTile } from '../layouts/picture-tile';
import { later } from '../parts/later';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { Tabs } from '../parts/tabs';
import { setDeskRoom, type SHELF_TABS, useDeskRoom } from './room-state';

const SeatsPanel = later(() => import('../layouts/seats-panel').then((m) => m.SeatsPanel));
const GraphicsShelf = later(() => import('./graphics-shelf').then((m) => m.GraphicsShelf));
const ReplayShelf = later(() => import('./replay-shelf').then((m) => m.ReplayShelf));

/** Layouts and presets as switches. */
function Layouts() {
  const { layouts, presets, gatherings } = useShow(({ desk: { show } }) => ({
    layouts: show.layouts,
    presets: show.presets,
    gatherings: show.guests.gatherings,
  }));
  return (
    <section aria-label="Layouts" className="p-2">
      <ul className="grid grid-cols-2 gap-1.5">
        {[...layouts, ...presets, ...gatherings].map(({ id, name, number }) => (
          <li key={id}>
            <PictureTile id={id} name={name} number={number} />
          </li>
        ))}
      </ul>
      {layouts.length === 0 && <p className="text-muted">No layouts yet. They are built in the room Layouts, from seats and sources.</p>}
      <Link to="../layouts" className="mt-1 inline-flex min-h-7 items-center text-straw underline" relative="path">
        Build layouts
      </Link>
    </section>
  );
}

/** Framings as switches. */
function Framings() {
  const framings = useShow(({ desk: { show } }) => show.framings);
  return (
    <section aria-label="Framings" className="p-2">
      <ul className="grid grid-cols-2 gap-1.5">
        {framings.map(({ id, name, number }) => (
          <li key={id}>
            <PictureTile id={id} name={name} number={number} />
          </li>
        ))}
      </ul>
      {framings.length === 0 && (
        <p className="text-muted">No framings yet. They are made in the room Layouts: a crop, a zoom, colours, a key of a source.</p>
      )}
    </section>
  );
}

/** What is prepared: layouts, framings, who fills the seats, graphics, clips. */
export function Shelf() {
  const tab = useDeskRoom((s) => s.tab);
  const box = useRoving<HTMLElement>();
  const empty = useShow(({ desk: { show } }) => show.seats.filter((s) => s.occupantId === null).length);
  return (
    <section ref={box} {...region('shelf', 'Shelf')} className="desk-part shelf flex min-h-0 flex-1 flex-col border-t border-line">
      <Tabs
        label="Shelf"
        value={tab}
        onChange={(value) => setDeskRoom({ tab: value as (typeof SHELF_TABS)[number] })}
        tabs={[
          { value: 'layouts', label: 'Layouts', content: <Layouts /> },
          { value: 'framings', label: 'Framings', content: <Framings /> },
          { value: 'seats', label: empty > 0 ? `Seats · ${empty}` : 'Seats', content: <SeatsPanel /> },
          { value: 'graphics', label: 'Graphics', content: <GraphicsShelf /> },
          { value: 'replay', label: 'Clips', content: <ReplayShelf /> },
        ]}
      />
    </section>
  );
}
