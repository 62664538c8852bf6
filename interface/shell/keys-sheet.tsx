/** All keys on one sheet. */
import { Dialog } from '../parts/dialog';
import { useLocation } from 'react-router';
import { SOUND_KEYS } from '../sound/use-sound-keys';
import { KeyDrawing } from '../replay/key-drawing';
import { DESK_KEYS, keyName, LAYOUT_KEYS } from './keymap';

const GROUPS = ['Picture', 'Lanes', 'Replay', 'Sound', 'Output', 'Show'] as const;

/** Keys that are held, in every room. */
const HELD_LINES: [string, string][] = [
  ['Key left of 1, held', 'Talk to the guests'],
  ['Shift with it', 'Talk to the people in the room'],
];

/** Which digit rows are told as one line instead of ten. */
const DIGIT_LINES: [string, string][] = [
  ['1 … 0', 'Number 1 … 10 to Next'],
  ['Shift 1 … 0', 'Number 1 … 10 straight to air'],
];

function Lines({ lines }: { lines: readonly (readonly [string, string])[] }) {
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
      {lines.map(([key, does]) => (
        <div key={key} className="contents">
          <dt className="figures text-text">{key}</dt>
          <dd className="text-muted">{does}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The keys of this room. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const inReplay = useLocation().pathname.endsWith('/replay');
  const inSound = useLocation().pathname.endsWith('/sound');
  const inLayouts = useLocation().pathname.endsWith('/layouts');
  if (inReplay) {
    return (
      <Dialog
        open={open}
        onClose={onClose}
        title="Keys of Replay"
        about="They work on the chosen deck and the chosen clips. Ctrl K finds any command by name."
        extraWide
      >
        <KeyDrawing />
      </Dialog>
    );
  }
  if (inSound) {
    return (
      <Dialog open={open} onClose={onClose} title="Keys of Sound" about="Ctrl K finds any command by name." wide>
        <Lines lines={SOUND_KEYS} />
      </Dialog>
    );
  }
  if (inLayouts) {
    return (
      <Dialog open={open} onClose={onClose} title="Keys of this room" about="Ctrl K finds any command by name." wide>
        <Lines lines={LAYOUT_KEYS} />
      </Dialog>
    );
  }
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Keys"
      about="Numbers are those pinned to sources, framings and layouts. Ctrl K finds any command by name."
      wide
    >
      <div className="grid grid-cols-2 gap-x-8 gap-y-4">
        {GROUPS.map((group) => {
          const lines = DESK_KEYS.filter((k) => k.group === group && !k.code.startsWith('Digit')).map((k): [string, string] => [
            keyName(k),
            k.does,
          ]);
          return (
            <section key={group}>
              <h3 className="mb-1 font-semibold text-straw">{group}</h3>
              <Lines lines={[...(group === 'Picture' ? DIGIT_LINES : []), ...(group === 'Sound' ? HELD_LINES : []), ...lines]} />
            </section>
          );
        })}
      </div>
    </Dialog>
  );
}
