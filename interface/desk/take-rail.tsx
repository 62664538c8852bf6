/** Take, cut, the bar and fade to black. */
import { type StoredTransition } from '#core/picture/document';
import { barPosition } from '#core/picture/mixer';
import { transitionName, transitionWords } from '#core/picture/summary';
import { parseLength } from '#core/time/duration';
import { say } from '../client/say';
import { useShow, useSend, useLive } from '../client/show-client';
import { useHands } from '../client/hands';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { useDraft } from '../parts/use-draft';
import { HoldButton } from '../parts/hold-button';
import { TransitionMenu } from './transitions';

/** A length typed in frames (25), seconds (1.5s) or both ways. */
function LengthField() {
  const { frames, rate } = useShow(({ desk: { show } }) => ({ frames: show.transition.frames, rate: show.rate }));
  const send = useSend();
  const [text, setText] = useDraft(String(frames));
  const commit = () => {
    const plain = /^\d+$/.test(text.trim());
    const parsed = plain ? Number(text) : parseLength(text, rate);
    if (parsed === null || parsed < 1) {
      say.caution(`"${text}" is not a length. Write frames (25) or seconds (1.5s).`);
      setText(String(frames));
    } else if (parsed !== frames) send('picture.arm', { frames: Math.min(1500, parsed) });
    else setText(String(frames));
  };
  return (
    <label className="flex items-center gap-1" title="Frames, or seconds as 1.5s">
      <span className="sr-only">Length of the transition</span>
      <input
        data-role="length"
        className="figures w-13 px-1! text-right"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onFocus={(e) => e.target.select()}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') commit();
          if (e.key === 'Escape') setText(String(frames));
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
  const box = useRoving<HTMLElement>();
  const atHand = useHands((h) => h.transitionsAtHand);
  const { transition, black, transitions } = useShow(({ desk: { show, air } }) => ({
    transition: show.transition,
    black: air.black.to === 1,
    transitions: show.transitions,
  }));
  const isArmed = ({ settings }: StoredTransition) => JSON.stringify(settings) === JSON.stringify(transition);
  return (
    <section
      ref={box}
      {...region('take', 'Take')}
      className="flex items-center gap-1.5 border-y border-line bg-panel px-2 max-wide:flex-wrap max-wide:py-2"
    >
      <Button
        className="h-11 shrink-0 px-3! text-base! font-semibold"
        onClick={() => send('picture.cut')}
        title="Cut to Next"
        keyFor="picture.cut"
      >
        Cut
      </Button>
      <Button
        look="straw"
        className="h-11 shrink-0 px-5! text-lg!"
        data-first=""
        onClick={() => send('picture.take')}
        title="Take with the armed transition"
        keyFor="picture.take"
      >
        Take
      </Button>
      <Bar />
      <div className="flex min-w-0 items-center gap-1" role="group" aria-label="Transition">
        {transitions.slice(0, atHand).map((f, i) => (
          <Button
            key={f.id}
            className="max-w-28 min-w-0 px-1.5!"
            pressed={isArmed(f)}
            onClick={() => send('transition.arm', { transition: f.id })}
            title={`Arm ${f.name}: ${transitionWords(f.settings)}`}
            keyFor="transition.favourite"
            keyArgs={{ number: i + 1 }}
          >
            <span className="truncate">{f.name}</span>
          </Button>
        ))}
        {!transitions.slice(0, atHand).some(isArmed) && (
          <span className="figures max-w-32 truncate px-1 text-xs text-straw" title={`Armed: ${transitionWords(transition)}`}>
            {transitionName(transition)}
          </span>
        )}
        <TransitionMenu />
      </div>
      <LengthField />
      {black ? (
        <Button
          look="air"
          className="h-11 shrink-0"
          pressed
          onClick={() => send('picture.fadeToBlack', { on: false })}
          title="Fade back from black"
          keyFor="picture.black"
        >
          Back
        </Button>
      ) : (
        <HoldButton
          look="air"
          className="h-11 shrink-0"
          onHeld={() => send('picture.fadeToBlack', { on: true })}
          title="Hold: fade picture and sound to black"
          keyFor="picture.black"
        >
          Black
        </HoldButton>
      )}
    </section>
  );
}
