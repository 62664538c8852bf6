/** Buttons that ask for files. */
import { type ReactNode, useRef } from 'react';
import { Button } from './button';

interface Props {
  /** Name of the field itself, for whoever does not see the button. */
  label: string;
  accept: string;
  children: ReactNode;
}

/** Chooses files of this machine, one where not `several`; the same ones can be chosen again. */
export function FilesButton({
  label,
  accept,
  several = true,
  onFiles,
  children,
}: Props & { several?: boolean; onFiles: (files: File[]) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()}>{children}</Button>
      <input
        ref={input}
        type="file"
        multiple={several}
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

/** Chooses one file. */
export const FileButton = ({ onFile, ...rest }: Props & { onFile: (file: File) => void }) => (
  <FilesButton {...rest} several={false} onFiles={([file]) => file && onFile(file)} />
);
