/** Chooses a picture by seeing it: all that may be chosen, live, at the list that names them. */
import { Eye } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { IconButton } from './icon-button';
import { Monitor } from './monitor';
import { Popover } from './popover';
import { useRoving } from './roving';

export interface SeenOption {
  key: string;
  name: string;
  pictureId: string;
}

/** Pictures that are drawn at once: a search narrows them down. */
const MOST_SEEN = 40;
/** From so many on there is a search. */
const SEARCH_FROM = 13;

function Tiles({ options, chosen, onChoose }: { options: readonly SeenOption[]; chosen: string | null; onChoose: (key: string) => void }) {
  const [text, setText] = useState('');
  const stop = useRoving<HTMLUListElement>({ always: true });
  const found = options.filter((o) => o.name.toLowerCase().includes(text.trim().toLowerCase()));
  return (
    <div className="flex w-[34rem] max-w-[90vw] flex-col gap-2">
      {options.length >= SEARCH_FROM && (
        <input autoFocus aria-label="Find a picture" placeholder="name" value={text} onChange={(e) => setText(e.target.value)} />
      )}
      <ul ref={stop} className="grid grid-cols-4 gap-1.5" aria-label="Pictures">
        {found.slice(0, MOST_SEEN).map(({ key, name, pictureId }) => (
          <li key={key}>
            <button
              data-first={key === chosen ? '' : undefined}
              aria-pressed={key === chosen}
              className="block w-full rounded border border-line text-left hover:border-straw aria-pressed:border-straw"
              onClick={() => onChoose(key)}
            >
              <span className="block aspect-video w-full overflow-hidden rounded-t bg-black">
                <Monitor picture={{ kind: 'picture', id: pictureId }} label="" className="h-full w-full" />
              </span>
              <span className="block truncate px-1.5 py-0.5 text-[13px]" title={name}>
                {name}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {found.length === 0 && <p className="text-[13px] text-muted">No picture is called so.</p>}
      {found.length > MOST_SEEN && <p className="text-[13px] text-muted">and {found.length - MOST_SEEN} more: write a part of the name</p>}
    </div>
  );
}

/** A list of names, with a button that shows the pictures themselves where there are any. */
export function SeePictures({
  label,
  options,
  chosen,
  onChoose,
  children,
}: {
  /** What is chosen. */
  label: string;
  options: readonly SeenOption[];
  /** Key of the option that is chosen. */
  chosen: string | null;
  onChoose: (key: string) => void;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  if (options.length === 0) return children;
  return (
    <span className="flex min-w-0 items-center gap-1">
      <span className="flex min-w-0 flex-1 flex-col">{children}</span>
      <Popover
        label={`${label}: by seeing it`}
        align="end"
        open={open}
        onOpenChange={setOpen}
        trigger={
          <IconButton label={`${label}: choose by seeing it`}>
            <Eye size={16} />
          </IconButton>
        }
      >
        <Tiles
          options={options}
          chosen={chosen}
          onChoose={(key) => {
            setOpen(false);
            onChoose(key);
          }}
        />
      </Popover>
    </span>
  );
}
