/** Passes: who may work the show from elsewhere, in which rooms, until when; who is there now. */
import { Copy, Plus, QrCode } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { ROOM_IDS, ROOMS, type RoomId } from '#core/control/rooms';
import { passWords, type Right, type Rooms } from '#core/panels/pass';
import { causeOf } from '#core/schema/cause';
import { type ShowPasses } from '#engine/client/show-client';
import { type PassRow } from '#engine/storage/db';
import { say } from '../client/say';
import { useShowClient } from '../client/show-client';
import { useBase } from '../client/use-base';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { HoldButton } from '../parts/hold-button';
import { Line } from '../parts/fields';
import { LinkCode } from '../parts/link-code';

const RIGHTS: [Right | 'none', string][] = [
  ['none', '–'],
  ['see', 'look'],
  ['work', 'work'],
];

/** How long a new pass counts, hours; null until it is withdrawn. */
const HOURS = [null, 4, 12, 24, 72] as const;

/** Usual parts in a crew. */
const CREW: [name: string, rooms: Rooms][] = [
  ['Director', { desk: 'work', replay: 'see', sound: 'see', graphics: 'see', output: 'see' }],
  ['Replay', { replay: 'work', desk: 'see' }],
  ['Sound', { sound: 'work', desk: 'see' }],
  ['Graphics', { graphics: 'work', desk: 'see' }],
  ['Technician', { screens: 'work', output: 'see' }],
];

/** The address that lets in: the secret stands behind #, which no browser sends to any server. */
export const linkOf = (base: string, { showId, rooms, secret }: PassRow): string =>
  `${base}/crew/${showId}/${ROOM_IDS.find((r) => rooms[r] === 'work') ?? ROOM_IDS.find((r) => rooms[r]) ?? 'desk'}#pass=${secret}`;

function RoomRights({ rooms, onChange }: { rooms: Rooms; onChange: (rooms: Rooms) => void }) {
  const set = (room: RoomId, right: Right | 'none') => {
    const rest: Rooms = Object.fromEntries(Object.entries(rooms).filter(([r]) => r !== room));
    onChange(right === 'none' ? rest : { ...rest, [room]: right });
  };
  return (
    <div className="grid grid-cols-[repeat(auto-fill,minmax(120px,1fr))] gap-1.5" role="group" aria-label="Rooms of the pass">
      {ROOM_IDS.map((room) => (
        <label key={room} className="flex flex-col gap-0.5">
          <span className="text-[13px] text-muted">{ROOMS[room].name}</span>
          <select
            aria-label={`${ROOMS[room].name}: look or work`}
            value={rooms[room] ?? 'none'}
            onChange={(e) => set(room, e.target.value as Right | 'none')}
          >
            {RIGHTS.map(([right, words]) => (
              <option key={right} value={right}>
                {words}
              </option>
            ))}
          </select>
        </label>
      ))}
    </div>
  );
}

const untilWords = (until: number | null): string =>
  until === null
    ? 'until it is withdrawn'
    : `until ${new Date(until).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}`;

function NewPass({ passes }: { passes: ShowPasses }) {
  const [name, setName] = useState('');
  const [rooms, setRooms] = useState<Rooms>({ desk: 'work' });
  const [hours, setHours] = useState<(typeof HOURS)[number]>(12);
  const make = () => {
    passes.add(name, rooms, hours === null ? null : Date.now() + hours * 3_600_000).then(
      () => setName(''),
      (error: unknown) => say.caution(causeOf(error), { id: 'pass' }),
    );
  };
  return (
    <form
      className="flex flex-col gap-2 border-b border-line p-3"
      aria-label="New pass"
      onSubmit={(e) => {
        e.preventDefault();
        make();
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        <label className="flex min-w-40 flex-1 flex-col gap-0.5">
          <span className="text-[13px] text-muted">For whom</span>
          <input aria-label="For whom" maxLength={60} value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="flex flex-col gap-0.5">
          <span className="text-[13px] text-muted">Counts</span>
          <select
            aria-label="How long it counts"
            value={String(hours)}
            onChange={(e) => setHours(e.target.value === 'null' ? null : (Number(e.target.value) as (typeof HOURS)[number]))}
          >
            {HOURS.map((h) => (
              <option key={String(h)} value={String(h)}>
                {h === null ? 'until withdrawn' : `${h} hours`}
              </option>
            ))}
          </select>
        </label>
        <Button look="straw" type="submit" unusable={Object.keys(rooms).length > 0 ? null : 'Choose a room first.'}>
          <Plus size={15} /> Pass
        </Button>
      </div>
      <div className="flex flex-wrap gap-1" role="group" aria-label="Usual parts">
        {CREW.map(([part, own]) => (
          <Button key={part} pressed={JSON.stringify(own) === JSON.stringify(rooms)} onClick={() => setRooms(own)}>
            {part}
          </Button>
        ))}
      </div>
      <RoomRights rooms={rooms} onChange={setRooms} />
      {rooms.automation === 'work' && (
        <p className="text-[13px] text-caution">Macros reach every room: whoever works Automation can work all.</p>
      )}
    </form>
  );
}

function PassLine({
  row,
  passes,
  base,
  here,
}: {
  row: PassRow;
  passes: ShowPasses;
  base: string;
  here: readonly { since: number; delayMs: number | null }[];
}) {
  const [open, setOpen] = useState<'code' | 'rooms' | null>(null);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 10_000);
    return () => clearInterval(timer);
  }, []);
  const link = linkOf(base, row);
  const ended = row.until !== null && row.until <= now;
  const copy = () =>
    navigator.clipboard.writeText(link).then(
      () => say.good(`The link of ${row.name} is copied. It lets in whoever has it.`, { id: 'pass' }),
      () => setOpen('code'),
    );
  return (
    <li className="flex flex-col gap-1 border-b border-line p-3" data-pass={row.id}>
      <div className="flex flex-wrap items-center gap-2">
        <div className="min-w-40 flex-1">
          <Line strong max={60} label={`Name of ${row.name}`} value={row.name} onSave={(name) => void passes.set(row.id, { name })} />
        </div>
        <Button onClick={() => void copy()} title="Copy the link">
          <Copy size={15} /> Link
        </Button>
        <Button onClick={() => setOpen('code')} title="The link as a code, to be photographed">
          <QrCode size={15} /> Code
        </Button>
        <Button pressed={open === 'rooms'} onClick={() => setOpen(open === 'rooms' ? null : 'rooms')}>
          Rooms
        </Button>
        <HoldButton look="air" title="Hold: whoever came in by it is sent away at once" onHeld={() => void passes.withdraw(row.id)}>
          Withdraw
        </HoldButton>
      </div>
      <p className="text-sm">
        {passWords(row)} <span className={ended ? 'text-caution' : 'text-muted'}>· {ended ? 'has ended' : untilWords(row.until)}</span>
      </p>
      {here.length === 0 ? (
        <p className="text-[13px] text-muted">Not here.</p>
      ) : (
        <ul className="figures text-[13px] text-next">
          {here.map(({ since, delayMs }, i) => (
            <li key={i}>
              here since {new Date(since).toLocaleTimeString('en-GB')}
              {delayMs !== null && `, ${delayMs} ms there and back`}
            </li>
          ))}
        </ul>
      )}
      {open === 'rooms' && <RoomRights rooms={row.rooms} onChange={(rooms) => void passes.set(row.id, { rooms })} />}
      <Dialog open={open === 'code'} onClose={() => setOpen(null)} title={`The way in for ${row.name}`} about="It lets in whoever has it.">
        <LinkCode link={link} />
      </Dialog>
    </li>
  );
}

function List({ passes }: { passes: ShowPasses }) {
  const { passes: rows, people } = useStore(passes.store);
  const { base, onlyHere } = useBase();
  return (
    <div className="mx-auto max-w-3xl">
      <NewPass passes={passes} />
      {onlyHere && (
        <p className="border-b border-line p-3 text-sm text-muted">
          These links work on this machine. Started with <code className="figures">--lan</code>, the server lets other machines in too.
        </p>
      )}
      <ul aria-label="Passes">
        {rows.map((row) => (
          <PassLine key={row.id} row={row} passes={passes} base={base} here={people.filter((p) => p.passId === row.id)} />
        ))}
        {rows.length === 0 && (
          <li className="p-3 text-sm text-muted">
            No passes yet. A pass lets one person work or look into chosen rooms of this show, in another window, on another machine or a
            phone.
          </li>
        )}
      </ul>
    </div>
  );
}

export function PassesPanel() {
  const { passes } = useShowClient();
  if (!passes) return <p className="p-3 text-sm text-muted">Passes are made at the window that runs the show.</p>;
  return <List passes={passes} />;
}
