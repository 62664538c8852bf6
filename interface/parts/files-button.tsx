/** A button that asks for several files. */
import { type ReactNode, useRef } from 'react';
import { Button } from './button';

/** Chooses files of this machine; the same ones can be chosen again. */
export function FilesButton({
  label,
  accept,
  onFiles,
  children,
}: {
  /** Name of the field itself, for whoever does not see the button. */
  label: string;
  accept: string;
  onFiles: (files: File[]) => void;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()}>{children}</Button>
      <input
        ref={input}
        type="file"
        multiple
        accept={accept}
        className="hidden"
        aria-label={label}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length > 0) onFiles(files);
        }}
      />
    </>
  );
}
