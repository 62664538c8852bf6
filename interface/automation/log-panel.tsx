/** The log of the day: what was done, what went out to devices and what came in; lines are chosen, and made steps, messages or triggers. */
import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { type ReactNode, type RefObject, useLayoutEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { commandWords } from '#core/automation/words';
import { type Show } from '#core/desk/show';
import { type LineKind, type LogLine } from '#core/log/act-log';
import { formatTimecode } from '#core/time/timecode';
import { type ShowLog } from '#engine/client/show-client';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Sentence } from './sentence';

const ROW = 40;

/** Groups of lines that are shown or not. */
const GROUPS: [name: string, kinds: LineKind[], about: string][] = [
  ['Done', ['here', 'elsewhere'], 'What was done here and by the remote'],
  ['Macros', ['macro'], 'What macros and triggers did'],
  ['Out', ['sent'], 'What went out to devices'],
  ['In', ['heard'], 'What devices said'],
];

const SIGNS: Record<LineKind, { words: string; tone: string }> = {
  here: { words: 'HERE', tone: 'text-straw' },
  elsewhere: { words: 'RMT', tone: 'text-straw' },
  macro: { words: 'AUTO', tone: 'text-muted' },
  sent: { words: 'OUT', tone: 'text-next' },
  heard: { words: 'IN', tone: 'text-focus' },
};

/** Changes whenever the log does, but not oftener than it tells. */
const useVersion = (log: ShowLog): number =>
  useSyncExternalStore(
    (changed) => log.subscribe(changed),
    () => log.version,
  );

/**
 * Keeps the newest line in view, or, while `still`, every line where it is: what one is about to press does not move away from under the
 * hand. Returns how many lines have come since.
 */
function useNewestInView(room: RefObject<HTMLDivElement | null>, numbers: readonly number[], still: boolean): number {
  const before = useRef(numbers);
  const [last, setLast] = useState(numbers.at(-1) ?? -1);
  if (!still && last !== (numbers.at(-1) ?? -1)) setLast(numbers.at(-1) ?? -1);
  useLayoutEffect(() => {
    const list = room.current;
    if (list && !still) list.scrollTop = list.scrollHeight;
    // The oldest lines have been let go.
    else if (list) list.scrollTop -= Math.max(0, before.current.indexOf(numbers[0] ?? -1)) * ROW;
    before.current = numbers;
  }, [room, numbers, still]);
  return still ? numbers.length - 1 - numbers.findLastIndex((n) => n <= last) : 0;
}

function Line({ show, line, chosen, onPress }: { show: Show; line: LogLine; chosen: boolean; onPress: (more: boolean) => void }) {
  const sign = SIGNS[line.kind];
  const said = line.kind === 'sent' || line.kind === 'heard';
  const device = said ? (show.devices.find((d) => d.id === line.of)?.name ?? 'a device that is gone') : '';
  const words = useMemo(() => {
    if (said) return null;
    try {
      return commandWords(show, { type: line.of, args: JSON.parse(line.text) as Record<string, unknown> });
    } catch {
      return [{ text: `${line.of} ${line.text}`, strong: false }];
    }
  }, [show, said, line.of, line.text]);
  return (
    <button
      type="button"
      data-line={line.number}
      aria-pressed={chosen}
      className={clsx('flex h-full w-full items-center gap-2 border-b border-line px-2 text-left text-[13px]', chosen && 'bg-raised')}
      onClick={(e) => onPress(e.shiftKey)}
    >
      <span className={`figures w-9 shrink-0 ${sign.tone}`}>{sign.words}</span>
      <span className="min-w-0 flex-1">
        <span className="block truncate">
          {words ? (
            <Sentence words={words} />
          ) : (
            <>
              <strong>{device}</strong> <span className="figures">{line.text}</span>
            </>
          )}
        </span>
        <span className="block truncate text-muted">
          <span className="figures">{formatTimecode(line.frame, show.rate)}</span>
          {line.who !== '' && <span> · {line.who}</span>}
          {line.result !== '' && <span className={line.failed ? 'text-caution' : 'text-next'}> · {line.result}</span>}
        </span>
      </span>
    </button>
  );
}

/** `actions` are given the chosen lines, the oldest first. */
export function LogPanel({ first = [], actions }: { first?: readonly string[]; actions: (lines: LogLine[]) => ReactNode }) {
  const { log } = useShowClient();
  const version = useVersion(log);
  const show = useShow(({ desk }) => desk.show);
  const [shown, setShown] = useState<readonly string[]>(first.length > 0 ? first : GROUPS.map(([name]) => name));
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [scrolledUp, setScrolledUp] = useState(false);
  const [pointed, setPointed] = useState(false);
  const room = useRef<HTMLDivElement>(null);
  const kinds = GROUPS.flatMap(([name, list]) => (shown.includes(name) ? list : []));
  const key = kinds.join();
  const numbers = useMemo(() => {
    void version;
    return log.numbersOf(key.split(',').filter(Boolean) as LineKind[]);
  }, [log, key, version]);
  const rows = useVirtualizer({ count: numbers.length, getScrollElement: () => room.current, estimateSize: () => ROW, overscan: 6 });
  const newer = useNewestInView(room, numbers, scrolledUp || pointed || chosen.length > 0);
  const press = (number: number, more: boolean) => {
    const last = chosen.at(-1);
    if (!more || last === undefined) return setChosen(chosen.length === 1 && last === number ? [] : [number]);
    const [from, to] = [numbers.indexOf(Math.min(last, number)), numbers.indexOf(Math.max(last, number))];
    return setChosen([...new Set([...chosen, ...numbers.slice(Math.max(0, from), to + 1)])]);
  };
  const lines = [...chosen].sort((a, b) => a - b).flatMap((n) => log.line(n) ?? []);
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-1 border-b border-line p-1.5">
        {GROUPS.map(([name, , about]) => (
          <Button
            key={name}
            title={about}
            pressed={shown.includes(name)}
            onClick={() => setShown(shown.includes(name) ? shown.filter((s) => s !== name) : [...shown, name])}
          >
            {name}
          </Button>
        ))}
        {newer > 0 ? (
          <Button
            title="Nothing is chosen any more, and the newest lines are in view"
            className="ml-auto"
            onClick={() => {
              setChosen([]);
              setScrolledUp(false);
              if (room.current) room.current.scrollTop = room.current.scrollHeight;
            }}
          >
            {newer} newer
          </Button>
        ) : (
          <span className="figures ml-auto text-[13px] text-muted">{numbers.length} lines</span>
        )}
      </div>
      <div
        ref={room}
        className="min-h-32 flex-1 overflow-y-auto"
        aria-label="Log of the day"
        role="group"
        onPointerEnter={() => setPointed(true)}
        onPointerLeave={() => setPointed(false)}
        onScroll={({ currentTarget: e }) => setScrolledUp(e.scrollHeight - e.scrollTop - e.clientHeight > ROW * 1.5)}
      >
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const line = log.line(numbers[index] ?? -1);
            return (
              line && (
                <div key={line.number} className="absolute w-full" style={{ height: ROW, transform: `translateY(${start}px)` }}>
                  <Line show={show} line={line} chosen={chosen.includes(line.number)} onPress={(more) => press(line.number, more)} />
                </div>
              )
            );
          })}
        </div>
        {numbers.length === 0 && (
          <p className="p-3 text-sm text-muted">Nothing yet. What is done, sent and heard stands here as it happens.</p>
        )}
      </div>
      <div className="flex shrink-0 flex-wrap gap-1 border-t border-line p-1.5">{actions(lines)}</div>
    </div>
  );
}
