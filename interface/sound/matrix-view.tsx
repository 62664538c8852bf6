/** The matrix of channels and buses. */
import clsx from 'clsx';
import { Link2Off } from 'lucide-react';
import { memo } from 'react';
import { channelsOf } from '#core/sound/channels';
import { FADER_FLOOR_DB, FADER_TOP_DB } from '#core/sound/level';
import { routingReport } from '#core/sound/routing/findings';
import { type Crosspoint, matrixOf } from '#core/sound/routing/matrix';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { useRoving } from '../parts/roving';
import { setSoundRoom, useSoundRoom } from './room-state';

interface CellProps {
  from: string;
  bus: string;
  label: string;
  on: boolean;
  hand: boolean;
  levelDb: number;
  before: boolean;
  looped: boolean;
  chosen: boolean;
  onPress: (from: string, bus: string) => void;
}

/** One crosspoint: filled when open; a dot when a hand has set it; crossed in red when a loop runs through it. */
const Cell = memo(function Cell({ from, bus, label, on, hand, levelDb, before, looped, chosen, onPress }: CellProps) {
  const level = levelDb === 0 ? '' : levelDb > 0 ? `+${levelDb}` : String(levelDb).replace('-', '−');
  return (
    <td className="p-px">
      <button
        type="button"
        data-cell=""
        aria-label={label}
        aria-pressed={on}
        title={label}
        onClick={() => onPress(from, bus)}
        onFocus={() => setSoundRoom({ cell: { from, bus } })}
        className={clsx(
          'figures relative block h-8 w-full min-w-14 border text-[13px]',
          on ? 'border-next/70 bg-next/25' : 'border-line bg-deep text-muted',
          looped && 'border-2 border-air! bg-air/25',
          chosen && 'outline-2 outline-straw',
        )}
      >
        {on ? `${level || '0'}${before ? ' pre' : ''}` : ''}
        {hand && <span aria-hidden className="absolute top-0.5 right-0.5 h-1.5 w-1.5 rounded-full bg-straw" />}
        {looped && (
          <span aria-hidden className="absolute top-0 left-0.5 text-air">
            ↻
          </span>
        )}
      </button>
    </td>
  );
});

/** The chosen crosspoint in full: why it is as it is, level, tap. */
function CellEditor({ point, fromName, busName }: { point: Crosspoint; fromName: string; busName: string }) {
  const send = useSend();
  const { fromId: from, busId: bus, on, levelDb, tap, by, why } = point;
  const args = { from, bus };
  return (
    <div
      className="flex flex-wrap items-center gap-3 border-t border-line bg-panel px-3 py-1.5"
      aria-label="Chosen crosspoint"
      role="group"
    >
      <span className="font-semibold">
        {fromName} → {busName}
      </span>
      <Button pressed={on} onClick={() => send('sound.setSend', { ...args, on: !on })}>
        {on ? 'Open' : 'Closed'}
      </Button>
      <NumberField
        className="w-28"
        label="Level of the send, dB"
        unit="dB"
        min={FADER_FLOOR_DB}
        max={FADER_TOP_DB}
        whole={0}
        digits={1}
        value={levelDb}
        onCommit={(db) => send('sound.setSend', { ...args, levelDb: db })}
      />
      <Button
        pressed={tap === 'before'}
        title="Before the fader: the fader does not change it"
        onClick={() => send('sound.setSend', { ...args, tap: tap === 'before' ? 'after' : 'before' })}
      >
        {tap === 'before' ? 'Before the fader' : 'After the fader'}
      </Button>
      <span className="text-muted">{by === 'rule' ? `By rule: ${why}` : `Set by hand`}</span>
      {by === 'hand' && (
        <Button look="quiet" onClick={() => send('sound.sendByRule', args)}>
          <Link2Off size={14} /> Back to the rule
        </Button>
      )}
    </div>
  );
}

/** Channels and buses against buses: who is sent where, by rule or by hand. */
export function MatrixView() {
  const host = useShowClient();
  const send = useSend();
  const grid = useRoving<HTMLDivElement>({ always: true });
  const cell = useSoundRoom((s) => s.cell);
  useShow(({ desk: { show } }) => ({ sound: show.sound, sources: show.sources, seats: show.seats, framings: show.framings }));
  const { show } = host.state.desk;
  const matrix = matrixOf(show);
  const looped = new Set(routingReport(show).loops.loops.flatMap((l) => l.crosspoints));
  const { buses, listeners } = show.sound;
  const channels = channelsOf(show);
  const press = (from: string, bus: string) => {
    setSoundRoom({ cell: { from, bus } });
    send('sound.setSend', { from, bus });
  };
  const rows = [...channels.map((c) => ({ ...c, what: 'channel' })), ...buses.map((b) => ({ ...b, what: 'bus' }))];
  const point =
    cell && rows.some((r) => r.id === cell.from) && buses.some((b) => b.id === cell.bus) ? matrix.at(cell.from, cell.bus) : null;
  const nameOf = (id: string) => rows.find((r) => r.id === id)?.name ?? '';
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div ref={grid} className="min-h-0 flex-1 overflow-auto">
        <table className="border-separate border-spacing-0">
          <caption className="sr-only">Sends of channels and buses into buses</caption>
          <thead>
            <tr>
              <th
                scope="col"
                className="sticky top-0 left-0 z-20 min-w-44 bg-deep px-2 py-1 text-left align-bottom text-[13px] font-normal text-muted"
              >
                Press to send or not. <span className="text-straw">●</span> set by hand, <span className="text-air">↻</span> in a loop
              </th>
              {buses.map(({ id, name, colour }) => (
                <th
                  key={id}
                  scope="col"
                  className="sticky top-0 z-10 w-24 max-w-24 min-w-20 border-b-4 bg-deep px-1 py-1 text-left align-bottom text-[13px]"
                  style={{ borderBottomColor: colour }}
                >
                  <span className="line-clamp-2">{name}</span>
                  <span className="line-clamp-2 font-normal text-muted">
                    {listeners
                      .filter((l) => l.busId === id)
                      .map((l) => l.name)
                      .join(', ') || 'nobody listens'}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, name, colour, what }, i) => (
              <tr key={id} data-row={id}>
                <th
                  scope="row"
                  className={clsx(
                    'sticky left-0 z-10 max-w-44 truncate border-l-4 bg-deep px-2 text-left text-[13px] font-normal',
                    what === 'bus' && rows[i - 1]?.what === 'channel' && 'border-t border-t-line',
                  )}
                  style={{ borderLeftColor: colour }}
                >
                  {what === 'bus' ? `bus ${name}` : name}
                </th>
                {buses.map((bus) => {
                  if (bus.id === id) return <td key={bus.id} className="bg-panel" />;
                  const { on, by, levelDb, tap, why } = matrix.at(id, bus.id);
                  return (
                    <Cell
                      key={bus.id}
                      from={id}
                      bus={bus.id}
                      label={`${name} to ${bus.name}: ${on ? `${levelDb} dB, ${tap} the fader` : 'closed'}. ${why}`}
                      on={on}
                      hand={by === 'hand'}
                      levelDb={levelDb}
                      before={tap === 'before'}
                      looped={looped.has(`${id} ${bus.id}`)}
                      chosen={cell?.from === id && cell.bus === bus.id}
                      onPress={press}
                    />
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {point ? (
        <CellEditor point={point} fromName={nameOf(point.fromId)} busName={nameOf(point.busId)} />
      ) : (
        <p className="border-t border-line bg-panel px-3 py-2 text-muted">
          Choose a crosspoint to see why it is open or closed, and to set its level.
        </p>
      )}
    </div>
  );
}
