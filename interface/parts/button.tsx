/** Buttons, in the looks that they have everywhere. */
import clsx from 'clsx';
import { type ButtonHTMLAttributes } from 'react';
import { type ActionArgs } from '#core/control/action';
import { useKeyName } from '../client/hands';

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
  /** Action that does the same: its key is said in the title. */
  keyFor?: string;
  keyArgs?: ActionArgs;
}

/** A title with its key: "Take (Space)". */
export const withKey = (title: string | undefined, key: string): string | undefined => {
  if (key === '') return title;
  return title ? `${title} (${key})` : key;
};

/** A button. With `unusable` it stays focusable, so that the reason can be read. */
export function Button({
  look = 'plain',
  unusable,
  pressed,
  className,
  onClick,
  title,
  children,
  keyFor = '',
  keyArgs,
  ...rest
}: ButtonProps) {
  const key = useKeyName(keyFor, keyArgs);
  return (
    <button
      type="button"
      {...rest}
      title={unusable ?? withKey(title, key)}
      aria-disabled={unusable ? true : undefined}
      aria-pressed={pressed}
      onClick={unusable ? undefined : onClick}

      className={clsx(
        'inline-flex min-h-7 min-w-7 items-center justify-center gap-1.5 rounded-[3px] border px-2.5 py-0.5 text-sm whitespace-nowrap',
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
