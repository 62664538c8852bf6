/** The keys of the room that is open: drawn, and as a list. */
import { useMemo } from 'react';
import { Link } from 'react-router';
import { actionWords } from '#core/control/action';
import { findAction } from '#core/control/actions';
import { KEYBOARD } from '#core/control/binding';
import { chordName } from '#core/control/chord';
import { bindingFor, bindingsOf } from '#core/control/key-layout';
import { ROOMS } from '#core/control/rooms';
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

/** Lines of keys by group, in the order of the actions. */
function useLines() {
  const layout = useKeyLayout();
  const room = useHere((s) => s.room);
  return useMemo(() => {
    const groups = new Map<string, Map<string, string[]>>();
    for (const b of bindingsOf(layout)) {
      if (b.device !== KEYBOARD || bindingFor(layout, room, KEYBOARD, b.control) !== b) continue;
      const action = findAction(b.action);
      if (!action) continue;
      const group = b.room === 'all' ? 'In every room' : action.group;
      const lines = groups.get(group) ?? new Map<string, string[]>();
      groups.set(group, lines);
      const words = actionWords(action, b.args);
      lines.set(words, [...(lines.get(words) ?? []), chordName(b.control)]);
    }
    return { room, groups };
  }, [layout, room]);
}

/** The keys of this room. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { room, groups } = useLines();
  const showId = window.location.pathname.split('/')[2] ?? '';
  const sections: [string, [string, string][]][] = [
    ...[...groups].map(([group, lines]): [string, [string, string][]] => [
      group,
      [...lines].map(([words, keys]) => [keys.join(', '), words]),
    ]),
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
      <div className="columns-2 gap-8 max-[700px]:columns-1">
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
      <Link to={`/show/${showId}/settings`} className="self-start text-straw underline" onClick={onClose}>
        Change keys in Settings
      </Link>
    </Dialog>
  );
}
