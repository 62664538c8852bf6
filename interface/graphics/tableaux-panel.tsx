/** Tableaux: stored wholes of picture, lanes and transition. */
import { Plus, Trash2 } from 'lucide-react';
import { pictureName } from '#core/desk/pictures';
import { type Tableau } from '#core/picture/document';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { NumberField } from '../parts/number-field';
import { PictureSelect } from '../parts/picture-select';
import { region } from '../parts/region';
import { Line } from '../parts/fields';

/** What a tableau does to a lane, as one choice. */
const ALONE = ' alone';
const DOWN = ' down';

function Card({ tableau }: { tableau: Tableau }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const of = { tableau: tableau.id };
  const setLane = (laneId: string, choice: string) => {
    const others = tableau.lanes.filter((l) => l.laneId !== laneId);
    send('tableau.setLanes', {
      ...of,
      lanes: choice === ALONE ? others : [...others, { laneId, contentId: choice === DOWN ? null : choice }],
    });
  };
  const kept = show.transitions.find((t) => JSON.stringify(t.settings) === JSON.stringify(tableau.transition));
  return (
    <li className="flex flex-col gap-1.5 border border-line bg-panel p-2">
      <div className="flex items-center gap-1">
        <Line strong label="Name of the tableau" value={tableau.name} max={60} onSave={(name) => send('tableau.set', { ...of, name })} />
        <NumberField
          className="w-14"
          label={`Number of ${tableau.name}`}
          min={0}
          max={99}
          value={tableau.number ?? 0}
          onCommit={(n) => send('tableau.set', { ...of, number: n === 0 ? null : Math.round(n) })}
        />
        <IconButton label={`Remove ${tableau.name}`} onClick={() => send('tableau.remove', of)}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      <div className="flex gap-1">
        <Button className="flex-1" title="Only what differs from what is on air will move" onClick={() => send('tableau.next', of)}>
          To Next
        </Button>
        <Button look="air" className="flex-1" title="Straight to air: only what differs moves" onClick={() => send('tableau.take', of)}>
          To air
        </Button>
      </div>
      <label className="flex items-center gap-2 text-xs text-muted">
        Picture
        <PictureSelect
          label={`Picture of ${tableau.name}`}
          className="min-w-0 flex-1"
          kinds={['source', 'framing', 'layout', 'preset', 'seat', 'gathering', 'graphic']}
          none="left as it is"
          value={tableau.pictureId}
          onChange={(pictureId) => send('tableau.set', { ...of, pictureId })}
        />
      </label>
      {show.lanes.map((lane) => {
        const set = tableau.lanes.find((l) => l.laneId === lane.id);
        const value = set ? (set.contentId ?? DOWN) : ALONE;
        return (
          <label key={lane.id} className="flex items-center gap-2 text-xs text-muted">
            <span className="w-16 truncate">{lane.name}</span>
            <select
              aria-label={`${lane.name} in ${tableau.name}`}
              className="min-w-0 flex-1"
              value={value}
              onChange={(e) => setLane(lane.id, e.target.value)}
            >
              <option value={ALONE}>left as it is</option>
              <option value={DOWN}>nothing</option>
              {set?.contentId && <option value={set.contentId}>{pictureName(show, set.contentId)}</option>}
              {lane.content && lane.content.id !== set?.contentId && (
                <option value={lane.content.id}>{pictureName(show, lane.content.id)} (ready now)</option>
              )}
              {show.graphics.list
                .filter((g) => g.id !== set?.contentId && g.id !== lane.content?.id)
                .map((g) => (
                  <option key={g.id} value={g.id}>
                    {g.name}
                  </option>
                ))}
            </select>
          </label>
        );
      })}
      <label className="flex items-center gap-2 text-xs text-muted">
        <span className="w-16">Transition</span>
        <select
          aria-label={`Transition of ${tableau.name}`}
          className="min-w-0 flex-1"
          value={tableau.transition === null ? '' : (kept?.id ?? 'own')}
          onChange={(e) =>
            send('tableau.set', { ...of, transition: show.transitions.find((t) => t.id === e.target.value)?.settings ?? null })
          }
        >
          <option value="">the armed one</option>
          {tableau.transition && !kept && <option value="own">of its own</option>}
          {show.transitions.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </select>
      </label>
    </li>
  );
}

/** All tableaux of the show. */
export function TableauxPanel() {
  const send = useSend();
  const tableaux = useShow(({ desk }) => desk.show.tableaux);
  return (
    <section {...region('tableaux', 'Tableaux')} className="min-h-0 flex-1 overflow-y-auto p-2">
      <div className="mb-2 flex gap-1">
        <Button title="The picture and what is up in the lanes now" onClick={() => send('tableau.add', { from: 'air' })}>
          <Plus size={15} /> From what is on air
        </Button>
        <Button title="As it will be after the take" onClick={() => send('tableau.add', { from: 'next' })}>
          <Plus size={15} /> From Next
        </Button>
      </div>
      {tableaux.length === 0 && (
        <p className="text-muted">No tableaux yet. A tableau keeps a whole: the picture, what is up in which lane, and the transition.</p>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-2">
        {tableaux.map((tableau) => (
          <Card key={tableau.id} tableau={tableau} />
        ))}
      </ul>
    </section>
  );
}
