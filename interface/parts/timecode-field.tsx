/** A field for a timecode, typed as it is spoken. */
import clsx from 'clsx';
import { useState } from 'react';
import { type Rate } from '#core/time/rate';
import { parseSpoken } from '#core/time/spoken';
import { formatTimecode, TimecodeError } from '#core/time/timecode';
import { useDraft } from './use-draft';

interface TimecodeFieldProps {
  label: string;
  /** Frame that is shown; null for an empty field. */
  value: number | null;
  rate: Rate;
  /** Frame that steps and parts left out are taken from. */
  from: () => number;
  onCommit: (frameOfDay: number) => void;
  role?: string;
  title?: string | undefined;
  className?: string;
}

/** Takes `115410`, `54:00`, `11.54.10`, `11:54:10:12`, `+10`; Enter commits, Escape restores. */
export function TimecodeField({ label, value, rate, from, onCommit, role, title, className }: TimecodeFieldProps) {
  const shown = value === null ? '' : formatTimecode(value, rate);
  const [text, setText] = useDraft(shown);
  const [error, setError] = useState<string | null>(null);
  const restore = () => {
    setText(shown);
    setError(null);
  };
  const commit = () => {
    if (text.trim() === '' || text === shown) return restore();
    try {
      const frame = parseSpoken(text, from(), rate);
      restore();
      onCommit(frame);
    } catch (fault) {
      setError(fault instanceof TimecodeError ? fault.message : String(fault));
    }
    return undefined;
  };
  return (
    <span className="flex flex-col">
      <input
        data-role={role}
        aria-label={label}
        aria-invalid={error !== null}
        title={error ?? title}
        placeholder="00:00:00:00"
        className={clsx('figures', error && 'border-air!', className)}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onFocus={(e) => e.target.select()}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') commit();
          if (e.key === 'Escape') restore();
        }}
      />
      {error && (
        <span role="alert" className="text-xs text-air">
          {error}
        </span>
      )}
    </span>
  );
}
