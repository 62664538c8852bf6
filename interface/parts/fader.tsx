/** A fader with its scale. */
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { FADER_FLOOR_DB, FADER_TOP_DB, faderDbAt, faderPlace } from '#core/sound/level';

interface FaderProps {
  label: string;
  db: number;
  onChange: (db: number) => void;
  /** Across a row, or up a strip. */
  upright?: boolean;
  className?: string;
}

const clamp = (db: number) => Math.min(FADER_TOP_DB, Math.max(FADER_FLOOR_DB, Math.round(db * 10) / 10));

/** Where the travel of an upright fader is: right of the middle, for the figures of its scale stand at its left. */
const LINE = 'left-[calc(50%+5px)]';

/** dB lines beside the travel. */
const MARKS = [12, 6, 0, -5, -10, -20, -30, -40];
const LABELLED = [6, -10, -20, -30, -40];

/**
 * A fader with the usual taper. Dragging moves it from where it stands, never with a jump; a double press goes to 0 dB. Arrows
 * step by 1 dB, with Shift by 10, with Alt by 0.1.
 */
export function Fader({ label, db, onChange, upright = false, className = '' }: FaderProps) {
  const track = useRef<HTMLDivElement>(null);
  const grip = useRef<{ place: number; at: number } | null>(null);
  const along = (e: PointerEvent) => (upright ? -e.clientY : e.clientX);
  const down = (e: PointerEvent) => {
    if (e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    grip.current = { place: faderPlace(db), at: along(e) };
  };
  const move = (e: PointerEvent) => {
    const box = track.current?.getBoundingClientRect();
    if (!grip.current || !box) return;
    // With Shift ten times as fine.
    const travel = (along(e) - grip.current.at) / (upright ? box.height : box.width) / (e.shiftKey ? 10 : 1);
    const next = faderDbAt(Math.min(1, Math.max(0, grip.current.place + travel)));
    if (next !== db) onChange(next);
  };
  const up = () => {
    grip.current = null;
  };
  const key = (e: KeyboardEvent) => {
    const step = e.shiftKey ? 10 : e.altKey ? 0.1 : 1;
    const to = { ArrowUp: db + step, ArrowRight: db + step, ArrowDown: db - step, ArrowLeft: db - step, Home: FADER_FLOOR_DB, End: 0 }[
      e.key
    ];
    if (to === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    onChange(clamp(to));
  };
  const place = faderPlace(db) * 100;
  return (
    <div
      ref={track}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-orientation={upright ? 'vertical' : 'horizontal'}
      aria-valuemin={FADER_FLOOR_DB}
      aria-valuemax={FADER_TOP_DB}
      aria-valuenow={db}
      aria-valuetext={db <= FADER_FLOOR_DB ? 'silent' : `${db} dB`}
      title="Double press: 0 dB"
      className={`relative touch-none cursor-grab select-none active:cursor-grabbing ${upright ? 'min-w-8' : 'h-5 w-full pointer-coarse:h-11'} ${className}`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      onDoubleClick={() => onChange(0)}
      onKeyDown={key}
    >
      <div
        aria-hidden
        className={`absolute bg-line ${upright ? `inset-y-0 w-1 -translate-x-1/2 ${LINE}` : 'inset-x-0 top-1/2 h-1 -translate-y-1/2'}`}
      />
      {upright &&
        MARKS.map((mark) => (
          <div
            key={mark}
            aria-hidden
            className={`absolute h-px -translate-x-1/2 ${LINE} ${mark === 0 ? 'w-7 bg-text/70' : 'w-3 bg-muted/50'}`}
            style={{ bottom: `${faderPlace(mark) * 100}%` }}
          >
            {LABELLED.includes(mark) && (
              <span className="figures absolute -top-2.5 right-full text-[13px] leading-5 text-muted">
                {mark > 0 ? `+${mark}` : Math.abs(mark)}
              </span>
            )}
          </div>
        ))}
      <div
        aria-hidden
        className={`absolute border border-deep bg-straw shadow ${upright ? `h-5 w-7 pointer-coarse:h-9 -translate-x-1/2 translate-y-1/2 border-y-2 ${LINE}` : 'top-1/2 h-4 w-2.5 -translate-x-1/2 -translate-y-1/2'}`}
        style={upright ? { bottom: `${place}%` } : { left: `${place}%` }}
      >
        {upright && <div className="mx-auto mt-[7px] h-0.5 w-5 bg-deep pointer-coarse:mt-[15px]" />}
      </div>
    </div>
  );
}
