/** A canvas as large as a picture made for it, or as several side by side, which then lie on it as layers. */
import { useState } from 'react';
import { type Surface } from '#core/screens/surface';
import { useSendAll, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Popover } from '../parts/popover';

export function FromPictures({ surface }: { surface: Surface }) {
  const sendAll = useSendAll();
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const sizes = useShow((s) => s.sizes);
  const sources = useShow(({ desk }) => desk.show.sources.filter((s) => s.settings.kind === 'still' || s.settings.kind === 'media'));
  // In the order in which they were chosen, from left to right.
  const list = chosen.flatMap((id) => {
    const source = sources.find((s) => s.id === id);
    const size = sizes[id];
    return source && size ? [{ source, size }] : [];
  });
  const even = (n: number) => n + (n % 2);
  const width = even(list.reduce((sum, { size }) => sum + size.width, 0));
  const height = even(Math.max(0, ...list.map(({ size }) => size.height)));
  const make = () => {
    let x = 0;
    const layers = list.map(({ source, size }) => {
      const rect = { x, y: 0, width: size.width, height: size.height };
      x += size.width;
      const content = { kind: 'source', id: source.id };
      return { type: 'layer.add', args: { surface: surface.id, name: source.name.slice(0, 60), content, rect } };
    });
    if (sendAll([{ type: 'surface.set', args: { surface: surface.id, width, height } }, ...layers])) setOpen(false);
  };
  return (
    <Popover
      label="Canvas from pictures"
      align="end"
      open={open}
      onOpenChange={setOpen}
      trigger={<Button title="The canvas takes the size of a still or file, or of several side by side">From pictures</Button>}
    >
      <div className="flex w-72 flex-col gap-1">
        <ul className="max-h-60 overflow-y-auto" aria-label="Pictures, from left to right in the order in which they are chosen">
          {sources.map((s) => {
            const size = sizes[s.id];
            const at = chosen.indexOf(s.id);
            return (
              <li key={s.id}>
                <label className={`flex min-h-7 items-center gap-1.5 text-sm ${size ? '' : 'text-muted'}`}>
                  <input
                    type="checkbox"
                    checked={at >= 0}
                    disabled={!size}
                    onChange={(e) => setChosen(e.target.checked ? [...chosen, s.id] : chosen.filter((id) => id !== s.id))}
                  />
                  <span className="min-w-0 flex-1 truncate">
                    {at >= 0 ? `${at + 1} ` : ''}
                    {s.name}
                  </span>
                  <span className="figures text-[13px]">{size ? `${size.width}×${size.height}` : 'not seen yet'}</span>
                </label>
              </li>
            );
          })}
          {sources.length === 0 && <li className="text-sm text-muted">The show has no stills and files yet. Add them on the Desk.</li>}
        </ul>
        <Button look="straw" unusable={list.length > 0 ? null : 'Choose at least one picture.'} onClick={make}>
          {list.length > 0 ? `Make it ${width}×${height}` : 'Make it'}
        </Button>
      </div>
    </Popover>
  );
}
