/** The gathered views: put into Next, and set: names, order, how fast they move, and what is shown while there is nobody. */
import { Plus, Trash2 } from 'lucide-react';
import { type Gathering, GATHERING_KINDS, GATHERING_NAMES } from '#core/guests/document';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Line } from '../parts/fields';
import { IconButton } from '../parts/icon-button';
import { NumberField } from '../parts/number-field';
import { PictureSelect } from '../parts/picture-select';
import { PictureTile } from '../layouts/picture-tile';

function View({ view }: { view: Gathering }) {
  const send = useSend();
  const set = (change: Record<string, unknown>) => send('gathering.set', { gathering: view.id, ...change });
  return (
    <li className="flex gap-2 border-b border-line p-2" data-gathering={view.id}>
      <div className="w-32 shrink-0">
        <PictureTile id={view.id} name={view.name} number={view.number} />
      </div>
      <div className="flex min-w-0 flex-1 flex-col gap-1">
        <div className="flex items-center gap-1">
          <div className="min-w-0 flex-1">
            <Line strong max={60} label={`Name of ${view.name}`} value={view.name} onSave={(name) => set({ name })} />
          </div>
          <IconButton label={`Remove ${view.name}`} onClick={() => send('gathering.remove', { gathering: view.id })}>
            <Trash2 size={14} />
          </IconButton>
        </div>
        <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-[13px]">
          {view.kind !== 'shared' && (
            <label className="flex items-center gap-1">
              <input type="checkbox" checked={view.names} onChange={(e) => set({ names: e.target.checked })} /> names
            </label>
          )}
          {view.kind === 'everyone' && (
            <select aria-label={`Order of ${view.name}`} value={view.order} onChange={(e) => set({ order: e.target.value })}>
              <option value="number">by number</option>
              <option value="seat">by seat</option>
            </select>
          )}
          <span className="flex-1" />
          <NumberField
            className="w-12"
            label={`Frames that ${view.name} moves for`}
            min={0}
            max={250}
            value={view.frames}
            onCommit={(frames) => set({ frames: Math.round(frames) })}
          />
          <span className="text-muted">frames</span>
        </div>
        <PictureSelect
          className="min-w-0"
          label={`Shown in ${view.name} while there is nobody`}
          kinds={['source', 'framing', 'layout', 'seat', 'graphic']}
          none={view.kind === 'shared' ? 'otherwise: who speaks' : 'otherwise: nothing'}
          value={view.restId}
          onChange={(rest) => set({ rest })}
        />
      </div>
    </li>
  );
}

export function Gatherings() {
  const send = useSend();
  const views = useShow(({ desk: { show } }) => show.guests.gatherings);
  return (
    <section className="border-t border-line" aria-label="Gathered views">
      <h2 className="px-2 pt-2 text-lg font-semibold">Gathered views</h2>
      <ul>
        {views.map((view) => (
          <View key={view.id} view={view} />
        ))}
      </ul>
      <div className="flex flex-wrap gap-1 p-2">
        {GATHERING_KINDS.map((kind) => (
          <Button key={kind} onClick={() => send('gathering.add', { kind })}>
            <Plus size={14} /> {GATHERING_NAMES[kind]}
          </Button>
        ))}
      </div>
    </section>
  );
}
