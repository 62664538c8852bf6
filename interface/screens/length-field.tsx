/** A field for a length on a canvas: written in any unit, kept in pixels; what it comes to in the other is written beside it. */
import { useState } from 'react';
import { ArithmeticError } from '#core/time/arithmetic';
import { lengthWords, parseLength } from '#core/screens/lengths';
import { useDraft } from '../parts/use-draft';
import { useScreensRoom } from './room-state';

interface LengthFieldProps {
  label: string;
  /** Pixels of the canvas. */
  value: number;
  /** Millimetres of a pixel. */
  pitch: number;
  /** Pixels that 100 % means. */
  whole?: number;
  min?: number;
  max?: number;
  onCommit: (pixels: number) => void;
}

/** A length: `240`, `0.60 m`, `1' 11 5/8"`, `50%`, `100%-40`. Arrows step by a pixel, with Shift by ten. What is rounded is said. */
export function LengthField({ label, value, pitch, whole = 0, min = -20_000, max = 20_000, onCommit }: LengthFieldProps) {
  const unit = useScreensRoom((s) => s.unit);
  const [text, setText] = useDraft(String(value));
  const [says, setSays] = useState<{ text: string; fault: boolean } | null>(null);
  const commit = () => {
    if (text === String(value)) return setSays(null);
    try {
      const exact = parseLength(text, { pitch, bare: 'px', whole: whole * pitch }) / pitch;
      const pixels = Math.round(exact);
      if (pixels < min || pixels > max)
        return setSays({ text: `${label} goes from ${min} to ${max} pixels, this is ${pixels}.`, fault: true });
      setText(String(pixels));
      const off = pixels - exact;
      setSays(Math.abs(off) < 0.005 ? null : { text: `rounded by ${off > 0 ? '+' : '−'}${Math.abs(off).toFixed(2)} px`, fault: false });
      if (pixels !== value) onCommit(pixels);
    } catch (error) {
      if (!(error instanceof ArithmeticError)) throw error;
      setSays({ text: error.message, fault: true });
    }
    return undefined;
  };
  return (
    <label className="flex min-w-0 flex-col gap-0.5">
      <span className="flex justify-between gap-1 text-xs text-muted">
        <span>{label}</span>
        {unit !== 'px' && <span className="figures truncate">{lengthWords(value, pitch, unit)}</span>}
      </span>
      <input
        aria-label={label}
        className="figures w-full min-w-0"
        value={text}
        aria-invalid={says?.fault ?? false}
        title="Pixels, or a length: 0.60 m, 60 cm, 1' 11 5/8&quot;; with arithmetic"
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            commit();
          }
          if (e.key === 'Escape') {
            setText(String(value));
            setSays(null);
          }
          if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
          e.preventDefault();
          const step = (e.shiftKey ? 10 : 1) * (e.key === 'ArrowUp' ? 1 : -1);
          onCommit(Math.min(max, Math.max(min, value + step)));
        }}
      />
      {says && (
        <span role={says.fault ? 'alert' : 'status'} className={`text-[13px] ${says.fault ? 'text-caution' : 'text-muted'}`}>
          {says.text}
        </span>
      )}
    </label>
  );
}
