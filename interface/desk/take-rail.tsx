/** Take, cut, the bar and fade to black. */
import { barPosition } from '#core/picture/mixer';
import { transitionName, transitionWords } from '#core/picture/summary';
import { parseLength } from '#core/time/duration';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { useShow, useSend, useLive } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { TransitionMenu } from './transitions';

/** A length typed in frames (25), seconds (1.5s) or both ways. */
function LengthField() {
  const { frames, rate } = useShow(({ desk: { show } }) => ({ frames: show.transition.frames, rate: show.rate }));
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
  const position = useLive(({ desk: { air }, frame }) => Math.round(barPosition(air, frame) * 200) / 200);
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
  const { transition, black, first, second } = useShow(({ desk: { show, air } }) => ({
    transition: show.transition,
    black: air.black.to === 1,
    first: show.transitions[0],
    second: show.transitions[1],
  }));
  const favourites = [first, second].filter((f) => f !== undefined);
  return (
    <section
      aria-label="Take"
      className="flex items-center gap-1.5 border-y border-line bg-panel px-2 max-[1099px]:flex-wrap max-[1099px]:py-2"
    >
      <Button className="h-11 px-3! text-base! font-semibold" onClick={() => send('picture.cut')} title="Cut to Next (X)">
        Cut
      </Button>
      <Button
        look="straw"
        className="h-11 px-5! text-lg!"
        onClick={() => send('picture.take')}
        title="Take with the armed transition (Space)"
      >
        Take
      </Button>
      <Bar />
      <div className="flex min-w-0 items-center gap-1" role="group" aria-label="Transition">
        <span
          className="figures w-24 truncate text-right text-xs text-straw"
          title={`Armed: ${transitionWords(transition)}`}
          aria-label="Armed transition"
        >
          {transitionName(transition)}
        </span>
        {favourites.map((f, i) => (
          <Button
            key={f.id}
            className="max-w-24 min-w-0 px-1.5!"
            pressed={JSON.stringify(f.settings) === JSON.stringify(transition)}
            onClick={() => send('transition.arm', { transition: f.id })}
            title={`Arm ${f.name}: ${transitionWords(f.settings)} (${i === 0 ? 'F' : 'G'})`}
          >
            <span className="truncate">{f.name}</span>
          </Button>
        ))}
        <TransitionMenu />
      </div>
      <LengthField />
      {black ? (
        <Button
          look="air"
          className="h-11"
          pressed
          onClick={() => send('picture.fadeToBlack', { on: false })}
          title="Fade back from black (Shift B)"
        >
          Back
        </Button>
      ) : (
        <HoldButton
          look="air"
          className="h-11"
          onHeld={() => send('picture.fadeToBlack', { on: true })}
          title="Hold: fade picture and sound to black (Shift B)"
        >
          Black
        </HoldButton>
      )}
    </section>
  );
}
