/** The rooms in the bar: those a person uses by name, the others under one press, each with its key. */
import clsx from 'clsx';
import { ChevronDown, Pin } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { NavLink, useLocation } from 'react-router';
import { roomOfPath, type RoomId, ROOMS } from '#core/control/rooms';
import { useHands, setHands, useKeyName } from '../client/hands';
import { openPanel, useHere } from '../client/here';
import { useShowClient } from '../client/show-client';
import { useRooms } from '../client/use-rights';
import { withKey } from '../parts/button';
import { Popover } from '../parts/popover';
import { useRoving } from '../parts/roving';

const look = (active: boolean) =>
  clsx('px-2 leading-[40px] border-b-2', active ? 'border-straw text-text' : 'border-transparent text-muted hover:text-text');

function RoomLink({ room }: { room: RoomId }) {
  const key = useKeyName('go', { room });
  return (
    <NavLink to={room} className={({ isActive }) => look(isActive)} title={withKey(ROOMS[room].about, key)}>
      {ROOMS[room].name}
    </NavLink>
  );
}

/** One room in the list of all: goes there, and stands in the bar or not. */
function RoomRow({ room, onGo }: { room: RoomId; onGo: () => void }) {
  const key = useKeyName('go', { room });
  const rooms = useHands((s) => s.rooms);
  const pinned = rooms.includes(room);
  const { name, about } = ROOMS[room];
  return (
    <li className="flex items-center gap-1">
      <NavLink
        to={room}
        onClick={onGo}
        className={({ isActive }) =>
          clsx('flex min-h-8 min-w-0 flex-1 items-center gap-2 rounded-[3px] px-2 hover:bg-raised', isActive ? 'text-straw' : 'text-text')
        }
      >
        <span className="font-semibold">{name}</span>
        <span className="truncate text-[13px] text-muted">{about}</span>
        <kbd className="figures ml-auto pl-2 text-[13px] text-muted">{key}</kbd>
      </NavLink>
      <button
        type="button"
        aria-pressed={pinned}
        aria-label={`${name} in the bar`}
        title={pinned ? 'Stands in the bar' : 'Put it into the bar'}
        className={clsx('grid h-7 w-7 place-items-center rounded-[3px]', pinned ? 'text-straw' : 'text-muted hover:text-text')}
        onClick={() => setHands({ rooms: pinned ? rooms.filter((r) => r !== room) : [...rooms, room] })}
      >
        <Pin size={14} fill={pinned ? 'currentColor' : 'none'} />
      </button>
    </li>
  );
}

/** How many of the rooms fit beside the press for all of them. */
function useFits(count: number) {
  const box = useRef<HTMLDivElement>(null);
  const measure = useRef<HTMLDivElement>(null);
  const [fits, setFits] = useState(count);
  useEffect(() => {
    const look = () => {
      if (!box.current || !measure.current) return;
      const room = box.current.clientWidth;
      let width = 0;
      let n = 0;
      for (const child of measure.current.children) {
        width += child.getBoundingClientRect().width;
        if (width > room) break;
        n += 1;
      }
      setFits(n);
    };
    const observer = new ResizeObserver(look);
    if (box.current) observer.observe(box.current);
    if (measure.current) observer.observe(measure.current);
    look();
    return () => observer.disconnect();
  }, [count]);
  return { box, measure, fits };
}

/** Rooms by name as far as they fit, in the order of all rooms; a list with every room and its key. */
export function RoomsNav() {
  const here = roomOfPath(useLocation().pathname);
  const chosen = useHands((s) => s.rooms);
  const open = useHere((s) => s.open === 'rooms');
  const rooms = useRooms();
  const isPanel = useShowClient().panel !== null;
  const named = isPanel ? rooms : rooms.filter((r) => chosen.includes(r));
  const { box, measure, fits } = useFits(named.length);
  const links = useRoving<HTMLDivElement>();
  const list = useRoving<HTMLDivElement>();
  const shown = named.slice(0, fits);
  const close = () => openPanel(null);
  return (
    <nav className="flex min-w-0 flex-1 items-center max-wide:min-w-fit" aria-label="Rooms">
      <div ref={box} className="relative min-w-0 flex-1 overflow-hidden max-wide:hidden">
        <div ref={links} className="flex">
          {shown.map((room) => (
            <RoomLink key={room} room={room} />
          ))}
        </div>
        <div ref={measure} aria-hidden className="invisible absolute top-0 left-0 flex">
          {named.map((room) => (
            <span key={room} className={look(false)}>
              {ROOMS[room].name}
            </span>
          ))}
        </div>
      </div>
      <Popover
        label="All rooms"
        align="start"
        className="z-40 w-[min(420px,94vw)] rounded border border-line bg-panel p-2 shadow-2xl"
        open={open}
        onOpenChange={(next) => openPanel(next ? 'rooms' : null)}
        trigger={
          <button
            type="button"
            className={clsx('flex items-center gap-1', look(!shown.includes(here)))}
            aria-label="All rooms"
            title="All rooms, with their keys"
          >
            <span className="wide:hidden">{ROOMS[here].name}</span>
            <span className="max-wide:hidden">{shown.includes(here) ? 'Rooms' : ROOMS[here].name}</span>
            <ChevronDown size={14} />
          </button>
        }
      >
        <div ref={list}>
          {(['run', 'build'] as const).map((kind) => (
            <section key={kind}>
              <h3 className="px-2 pt-1 text-xs font-semibold text-muted">{kind === 'run' ? 'Run the show' : 'Build it'}</h3>
              <ul>
                {rooms
                  .filter((r) => ROOMS[r].kind === kind)
                  .map((room) => (
                    <RoomRow key={room} room={room} onGo={close} />
                  ))}
              </ul>
            </section>
          ))}
        </div>
      </Popover>
    </nav>
  );
}
