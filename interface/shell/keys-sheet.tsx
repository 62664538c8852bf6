/** The keys of the room that is open: drawn, and as a list. */
import { useMemo } from 'react';
import { Link } from 'react-router';
import { actionWords } from '#core/control/action';
import { findAction } from '#core/control/actions';
import { type Binding, KEYBOARD } from '#core/control/binding';
import { capOf, chordName } from '#core/control/chord';
import { bindingFor, bindingsOf } from '#core/control/key-layout';
import { ROOMS } from '#core/control/rooms';
import { type Show } from '#core/desk/show';
import { useShow } from '../client/show-client';
import { useKeyLayout } from '../client/hands';
import { useHere } from '../client/here';
import { KeyDrawing } from '../control/key-drawing';
import { Dialog } from '../parts/dialog';

/** What the mouse does together with keys. */
const MOUSE: Partial<Record<keyof typeof ROOMS, [string, string][]>> = {
  desk: [['Shift and press', 'A source or layout straight to air']],
  layouts: [
    ['Alt while dragging', 'Do not snap'],
    ['Shift while dragging', 'Keep proportions; turn by steps of 15°'],
    ['Wheel on a box', 'Zoom inside the box'],
  ],
  sound: [
    ['Double press on a fader', '0 dB'],
    ['Shift while dragging', 'Ten times as fine'],
  ],
  replay: [['Shift and press an angle', 'Added to the clip, or taken away']],
};

interface Line {
  keys: string[];
  words: string;
}

/** Keys that do the same with one number after the other are one line: "1 … 0: Number 1 … 10 to Next". */
function lines(bindings: readonly Binding[], show: Show): Line[] {
  const families = new Map<string, Binding[]>();
  for (const b of bindings) {
    const names = Object.keys(b.args).filter((n) => typeof b.args[n] === 'number');
    const prefix = b.control.replace(/[^+]*$/, '');
    const family = names.length === 1 && /Digit\d$/.test(b.control) ? `${b.action} ${prefix}` : `${b.action} ${JSON.stringify(b.args)}`;
    families.set(family, [...(families.get(family) ?? []), b]);
  }
  return [...families.values()].flatMap((list): Line[] => {
    const words = list.map((b) => {
      const action = findAction(b.action);
      return action ? actionWords(action, b.args, show) : '';
    });
    const keys = list.map((b) => chordName(b.control));
    const [first, last] = [list[0], list.at(-1)];
    if (!first || !last) return [];
    if (new Set(words).size === 1) return [{ keys, words: words[0] ?? '' }];
    if (list.length < 3) return list.map((_, i) => ({ keys: [keys[i] ?? ''], words: words[i] ?? '' }));
    const [name] = Object.keys(first.args).filter((n) => typeof first.args[n] === 'number');
    const action = findAction(first.action);
    const span = { ...first.args, [name ?? '']: `${first.args[name ?? '']} … ${last.args[name ?? '']}` };
    return [{ keys: [`${keys[0]} … ${capOf(last.control.split('+').at(-1) ?? '')}`], words: action ? actionWords(action, span) : '' }];
  });
}

/** Lines of keys by group, in the order of the actions. */
function useLines() {
  const layout = useKeyLayout();
  const room = useHere((s) => s.room);
  const show = useShow(({ desk }) => desk.show);
  return useMemo(() => {
    const groups = new Map<string, Binding[]>();
    for (const b of bindingsOf(layout)) {
      const action = findAction(b.action);
      if (!action || b.device !== KEYBOARD || bindingFor(layout, room, KEYBOARD, b.control) !== b) continue;
      const group = b.room === 'all' ? 'In every room' : action.group;
      groups.set(group, [...(groups.get(group) ?? []), b]);
    }
    return { room, groups: [...groups].map(([group, list]) => [group, lines(list, show)] as const) };
  }, [layout, room, show]);
}

/** The keys of this room. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { room, groups } = useLines();
  const home = window.location.pathname.split('/').slice(0, 3).join('/');
  const sections: [string, [string, string][]][] = [
    ...groups.map(([group, list]): [string, [string, string][]] => [group, list.map(({ keys, words }) => [keys.join(', '), words])]),
    ...(MOUSE[room] ? [['With the mouse', MOUSE[room]] as [string, [string, string][]]] : []),
  ];
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title={`Keys of ${ROOMS[room].name}`}
      about="A text that is typed keeps the keys until Enter or Escape."
      extraWide
    >
      <KeyDrawing room={room} />
      <div className="columns-2 gap-8 max-beside:columns-1">
        {sections.map(([group, lines]) => (
          <section key={group} className="mb-4">
            <h3 className="mb-1 font-semibold text-straw">{group}</h3>
            <dl className="grid grid-cols-[minmax(110px,auto)_1fr] gap-x-4 gap-y-1">
              {lines.map(([key, does]) => (
                <div key={does} className="contents">
                  <dt className="figures text-text">{key}</dt>
                  <dd className="text-muted">{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
      <Link to={`${home}/settings`} className="self-start text-straw underline" onClick={onClose}>
        Change keys in Settings
      </Link>
    </Dialog>
  );
}
