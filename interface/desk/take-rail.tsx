import { type WipeDirection } from '#core/show/show';
import { barPosition } from '#core/picture/mixer';
import { parseLength } from '#core/time/duration';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { useHostState, useSend } from '../host/host-context';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { NumberField } from '../parts/number-field';

const KINDS = [
  ['dissolve', 'Dissolve', 'D'],
  ['dip', 'Dip', 'F'],
  ['wipe', 'Wipe', 'G'],
] as const;

const DIRECTIONS: [WipeDirection, string, string][] = [
  ['right', '→', 'to the right'],
  ['left', '←', 'to the left'],
  ['down', '↓', 'to the bottom'],
  ['up', '↑', 'to the top'],
];

/** A length typed in frames (25), seconds (1.5s) or both ways. */
function LengthField() {
  const { frames, rate } = useHostState(({ desk: { show } }) => ({ frames: show.transition.frames, rate: show.rate }));
  const send = useSend();
  const [text, setText] = useState(String(frames));
  useEffect(() => setText(String(frames)), [frames]);
  const commit = () => {
    const plain = /^\d+$/.test(text.trim());
    const parsed = plain ? Number(text) : parseLength(text, rate);
    if (parsed === null || parsed < 1) {
      toast.warning(`"${text}" is not a length. Write frames (25) or seconds (1.5s).`);
      setText(String(frames));
    } else if (parsed !== frames) send('picture.arm', { frames: Math.min(1500, parsed) });
    else setText(String(frames));
  };
  return (
    <label className="flex items-center gap-1" title="Frames, or seconds as 1.5s">
      <span className="sr-only">Length of the transition</span>
      <input
        className="figures w-13 px-1! text-right"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') commit();
          if (e.key === 'ArrowUp') send('picture.arm', { frames: Math.min(1500, frames + (e.shiftKey ? 10 : 1)) });
          if (e.key === 'ArrowDown') send('picture.arm', { frames: Math.max(1, frames - (e.shiftKey ? 10 : 1)) });
        }}
      />
      <span className="text-xs text-muted">fr</span>
    </label>
  );
}

function Bar() {
  const send = useSend();
  const position = useHostState(({ desk: { air }, frame }) => Math.round(barPosition(air, frame) * 200) / 200);
  return (
    <input
      type="range"
      aria-label="Bar: do the transition by hand"
      title="Drag, or use the arrow keys"
      className="w-0 min-w-14 flex-1"
      min={0}
      max={1}
      step={0.005}
      value={position}
      onChange={(e) => send('picture.moveBar', { position: Number(e.target.value) })}
    />
  );
}

/** Between Next and air: cut, take, the bar, the armed transition, black. */
export function TakeRail() {
  const send = useSend();
  const { transition, black } = useHostState(({ desk: { show, air } }) => ({ transition: show.transition, black: air.black.to === 1 }));
  return (
    <section aria-label="Take" className="flex items-center gap-1.5 border-y border-line bg-panel px-2 max-[1099px]:flex-wrap max-[1099px]:py-2">
      <Button className="h-11 px-3! text-base! font-semibold" onClick={() => send('picture.cut')} title="Cut to Next (X)">
        Cut
      </Button>
      <Button look="straw" className="h-11 px-5! text-lg!" onClick={() => send('picture.take')} title="Take with the armed transition (Space)">
        Take
      </Button>
      <Bar />
      <div className="flex" role="group" aria-label="Transition">
        {KINDS.map(([kind, label, key]) => (
          <Button key={kind} className="px-1.5!" pressed={transition.kind === kind} onClick={() => send('picture.arm', { kind })} title={`Arm ${label.toLowerCase()} (${key})`}>
            {label}
          </Button>
        ))}
      </div>
      {transition.kind === 'wipe' && (
        <>
          <select className="px-1! text-base" aria-label="Direction of the wipe" title="Where the edge travels to" value={transition.direction} onChange={(e) => send('picture.arm', { direction: e.target.value })}>
            {DIRECTIONS.map(([direction, sign, label]) => (
              <option key={direction} value={direction} aria-label={label}>
                {sign}
              </option>
            ))}
          </select>
          <NumberField className="w-14" label="Soft edge, per cent" unit="%" min={0} max={100} value={Math.round(transition.softness * 100)} onCommit={(v) => send('picture.arm', { softness: v / 100 })} />
        </>
      )}
      {transition.kind === 'dip' && (
        <input type="color" aria-label="Colour of the dip" className="h-8 w-9 p-0.5!" value={transition.dipColour} onChange={(e) => send('picture.arm', { dipColour: e.target.value })} />
      )}
      <LengthField />
      {black ? (
        <Button look="air" className="h-11" pressed onClick={() => send('picture.fadeToBlack', { on: false })} title="Fade back from black (Shift B)">
          Back
        </Button>
      ) : (
        <HoldButton look="air" className="h-11" onHeld={() => send('picture.fadeToBlack', { on: true })} title="Hold: fade picture and sound to black (Shift B)">
          Black
        </HoldButton>
      )}
    </section>
  );
}
