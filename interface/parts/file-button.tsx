/** A button that asks for a file. */
import { type ReactNode, useRef } from 'react';
import { Button } from './button';

/** Chooses one file of this machine; the same one can be chosen again. */
export function FileButton({
  label,
  accept,
  onFile,
  children,
}: {
  /** Name of the field itself, for whoever does not see the button. */
  label: string;
  accept: string;
  onFile: (file: File) => void;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()}>{children}</Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="hidden"
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
