/** A field for a number, committed with Enter or by leaving it. */
import clsx from 'clsx';
import { type KeyboardEvent, useState } from 'react';
import { ArithmeticError, evaluate } from '#core/time/arithmetic';
import { useDraft } from './use-draft';

interface NumberFieldProps {
  label: string;
  value: number;
  onCommit: (value: number) => void;
  min: number;
  max: number;
  /** What 100 % means. */
  whole?: number;
  /** Digits after the point. */
  digits?: number;
  unit?: string;
  /** Shows the label above the field; otherwise it is only its accessible name. */
  showLabel?: boolean;
  className?: string;
  /** For keys that go to it. */
  role?: string | undefined;
}

const clamp = (value: number, min: number, max: number) => Math.min(max, Math.max(min, value));

/** A number that takes arithmetic (`1920/4`, `100%-40`). Arrows step by 1, with Shift by 10, with Alt by 0.1. */
export function NumberField({
  label,
  value,
  onCommit,
  min,
  max,
  whole = max,
  digits = 0,
  unit,
  showLabel,
  className,
  role,
}: NumberFieldProps) {
  const shown = String(Number(value.toFixed(digits)));
  const [text, setText] = useDraft(shown);
  const [error, setError] = useState<string | null>(null);

  function commit(): void {
    try {
      const result = evaluate(text, whole);
      if (result < min || result > max) {
        setError(`${label} goes from ${min} to ${max}.`);
        return;
      }
      setError(null);
      const rounded = Number(result.toFixed(digits));
      setText(String(rounded));
      if (rounded !== value) onCommit(rounded);
    } catch (fault) {
      setError(fault instanceof ArithmeticError ? fault.message : String(fault));
    }
  }

  function keyDown(event: KeyboardEvent): void {
    if (event.key === 'Enter') {
      // Enter settles the number; it does not also send the form around it.
      event.preventDefault();
      commit();
    }
    if (event.key === 'Escape') {
      setText(shown);
      setError(null);
    }
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    setError(null);
    const step = (event.shiftKey ? 10 : event.altKey ? 0.1 : 1) * (event.key === 'ArrowUp' ? 1 : -1);
    onCommit(Number(clamp(value + step, min, max).toFixed(Math.max(digits, event.altKey ? 1 : 0))));
  }

  return (
    <label data-role={role} className={clsx('flex flex-col gap-0.5', className)}>
      {showLabel && <span className="text-xs text-muted">{label}</span>}
      <span className="flex items-center gap-1">
        <input
          aria-label={label}
          aria-invalid={error !== null}
          title={error ?? undefined}
          className={clsx('figures w-full min-w-0 px-1.5! pointer-coarse:min-h-11', error && 'border-air!')}
          value={text}
          inputMode="decimal"
          onChange={(e) => setText(e.target.value)}
          onFocus={(e) => e.target.select()}
          onBlur={commit}
          onKeyDown={keyDown}
        />
        {unit && <span className="text-xs whitespace-nowrap text-muted">{unit}</span>}
      </span>
      {error && (
        <span role="alert" className="text-xs text-air">
          {error}
        </span>
      )}
    </label>
  );
}
