/** Buttons, in the looks that they have everywhere. */
import clsx from 'clsx';
import { type ButtonHTMLAttributes } from 'react';

type Look = 'plain' | 'straw' | 'quiet' | 'air';

const LOOKS: Record<Look, string> = {
  plain: 'border-line bg-raised hover:border-muted',
  straw: 'border-straw bg-straw text-deep font-semibold hover:brightness-110',
  quiet: 'border-transparent bg-transparent text-muted hover:text-text',
  air: 'border-air text-air hover:bg-air/15',
};

export interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: Look;
  /** Why it cannot be used now: disables it, and says so on hover and focus. */
  unusable?: string | null;
  pressed?: boolean;
}

/** A button. With `unusable` it stays focusable, so that the reason can be read. */
export function Button({ look = 'plain', unusable, pressed, className, onClick, title, children, ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      {...rest}
      title={unusable ?? title}
      aria-disabled={unusable ? true : undefined}
      aria-pressed={pressed}
      onClick={unusable ? undefined : onClick}

      className={clsx(
        'inline-flex min-h-7 items-center justify-center gap-1.5 rounded-[3px] border px-2.5 py-0.5 text-sm whitespace-nowrap',
        LOOKS[look],
        pressed && 'border-straw text-straw',
        unusable && 'opacity-50',
        className,
      )}
    >
      {children}
    </button>
  );
}
