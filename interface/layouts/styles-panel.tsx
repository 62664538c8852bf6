/** Styles: stored, applied, overwritten and tied to framings. */
import { Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { placesOfStyle, type StylePlace } from '#core/layout/styles';
import { type Box, type Layout, type Style, STYLE_PROPERTIES, type StyleProperty } from '#core/layout/document';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Dialog } from '../parts/dialog';
import { PictureSelect } from '../parts/picture-select';

const FIRST_PROPERTIES: StyleProperty[] = ['radius', 'border', 'shadow'];

/** Every box that follows a style, those on air first. */
function usePlaces(styleId: string): StylePlace[] {
  const { show, air } = useShow(({ desk }) => desk);
  return useMemo(() => placesOfStyle(show, air, styleId), [show, air, styleId]);
}

/** What a change of a style will touch, those on air first, before it is done. */
function PlacesDialog({ style, onClose, onGo }: { style: Style; onClose: () => void; onGo: () => void }) {
  const places = usePlaces(style.id);
  const live = places.filter((p) => p.onAir).length;
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Overwrite ${style.name}`}
      about={`${places.length} ${places.length === 1 ? 'box follows' : 'boxes follow'} it${live > 0 ? `, ${live} of them on air` : ''}. They change at once; undo brings all of them back.`}
    >
      <ul className="max-h-[40vh] overflow-y-auto">
        {places.map(({ layoutId, boxId, layout, box, onAir }) => (
          <li key={`${layoutId} ${boxId}`} className="flex items-center gap-2 border-t border-line py-1">
            {onAir && <span className="figures bg-air px-1 text-[13px] font-semibold text-deep">AIR</span>}
            {layout}: {box}
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button look="straw" onClick={onGo}>
          Overwrite
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </Dialog>
  );
}

function StyleRow({ style, index, layout, boxes }: { style: Style; index: number; layout: Layout; boxes: readonly Box[] }) {
  const send = useSend();
  const [asking, setAsking] = useState(false);
  const places = usePlaces(style.id).length;
  const ids = boxes.map((b) => b.id);
  const first = ids[0];
  const none = first === undefined ? 'Choose a box first.' : null;
  const overwrite = () => {
    setAsking(false);
    send('style.overwrite', { style: style.id, layout: layout.id, box: first });
  };
  return (
    <li
      className="flex flex-col gap-1 border-t border-line px-2 py-1.5"
      draggable
      onDragStart={(e) => e.dataTransfer.setData('application/x-bivoca-style', style.id)}
    >
      <div className="flex items-center gap-1">
        <Button
          className="min-w-0 flex-1 justify-start!"
          unusable={none}
          pressed={boxes.length > 0 && boxes.every((b) => b.styleId === style.id)}
          title={`Apply to the chosen boxes${index < 9 ? ` (Alt ${index + 1})` : ''}, or drag onto a box`}
          onClick={() => send('style.apply', { style: style.id, layout: layout.id, boxes: ids })}
        >
          <span className="truncate">{style.name}</span>
          <span className="ml-auto text-xs text-muted">{places}</span>
        </Button>
        <Button
          unusable={none}
          title="Take the values of the chosen box into this style"
          onClick={() => (places > 1 ? setAsking(true) : overwrite())}
        >
          Overwrite
        </Button>
        <IconButton label={`Remove the style ${style.name}`} onClick={() => send('style.remove', { style: style.id })}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      <input
        key={style.name}
        aria-label={`Name of the style ${style.name}`}
        defaultValue={style.name}
        maxLength={60}
        onBlur={(e) =>
          e.target.value.trim() && e.target.value !== style.name && send('style.edit', { style: style.id, name: e.target.value.trim() })
        }
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      <p className="text-xs text-muted">{style.properties.join(', ')}</p>
      <Ties style={style} />
      {asking && <PlacesDialog style={style} onClose={() => setAsking(false)} onGo={overwrite} />}
    </li>
  );
}

/** The framings that a style is tied to: boxes that show one of them follow it. */
function Ties({ style }: { style: Style }) {
  const send = useSend();
  const framings = useShow(({ desk: { show } }) => show.framings);
  const tie = (framingIds: string[]) => send('style.edit', { style: style.id, framingIds });
  return (
    <div className="flex flex-wrap items-center gap-1 text-xs text-muted">
      tied to
      {style.framingIds.map((id) => {
        const name = framings.find((f) => f.id === id)?.name ?? id;
        return (
          <button
            key={id}
            type="button"
            className="rounded-[3px] bg-raised px-1.5 py-0.5 text-text hover:text-air"
            aria-label={`Untie ${style.name} from ${name}`}
            title="Press to untie"
            onClick={() => tie(style.framingIds.filter((other) => other !== id))}
          >
            {name} ×
          </button>
        );
      })}
      <PictureSelect
        className="min-w-28 flex-1"
        label={`Tie ${style.name} to a framing`}
        kinds={['framing']}
        none={style.framingIds.length === 0 ? 'no framing' : 'one more…'}
        keep={(framing) => !style.framingIds.includes(framing.id)}
        value={null}
        onChange={(id) => id !== null && tie([...style.framingIds, id])}
      />
    </div>
  );
}

/** Styles: store, apply, overwrite, tie. */
export function StylesPanel({ layout, boxes }: { layout: Layout; boxes: readonly Box[] }) {
  const send = useSend();
  const styles = useShow(({ desk: { show } }) => show.styles);
  const [name, setName] = useState('');
  const [properties, setProperties] = useState<StyleProperty[]>(FIRST_PROPERTIES);
  const first = boxes[0];
  const store = () => {
    if (first && send('style.store', { layout: layout.id, box: first.id, name: name.trim() || `Style ${styles.length + 1}`, properties }))
      setName('');
  };
  return (
    <section aria-label="Styles">
      <ul>
        {styles.map((style, i) => (
          <StyleRow key={style.id} style={style} index={i} layout={layout} boxes={boxes} />
        ))}
      </ul>
      {styles.length === 0 && <p className="px-2 py-2 text-muted">No styles yet. Shape a box, choose it, and store what it looks like.</p>}
      <div className="flex flex-col gap-1.5 border-t border-line p-2">
        <h3 className="text-xs font-semibold text-muted">Store the chosen box as a style</h3>
        <div className="flex flex-wrap gap-x-3 gap-y-0.5">
          {STYLE_PROPERTIES.map((property) => (
            <label key={property} className="flex items-center gap-1 text-sm">
              <input
                type="checkbox"
                checked={properties.includes(property)}
                onChange={(e) => setProperties(e.target.checked ? [...properties, property] : properties.filter((p) => p !== property))}
              />
              {property}
            </label>
          ))}
        </div>
        <div className="flex gap-1">
          <input
            aria-label="Name of the new style"
            placeholder="Name"
            className="min-w-0 flex-1"
            maxLength={60}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <Button unusable={first ? null : 'Choose a box first.'} onClick={store}>
            Store
          </Button>
        </div>
        {first?.styleId && (
          <Button
            onClick={() => send('style.apply', { style: null, layout: layout.id, boxes: boxes.map((b) => b.id) })}
            title="Boxes keep their look and no longer follow a style"
          >
            Let go of the style
          </Button>
        )}
      </div>
    </section>
  );
}
