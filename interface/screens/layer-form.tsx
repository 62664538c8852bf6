/** Numbers of one layer, or of several at once; all of it is in Next until the take. */
import { type Layer, LAYER_SHOWS, type Surface } from '#core/screens/surface';
import { layerFalls } from '#core/screens/checks';
import { FITS, type Fit } from '#core/layout/document';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Choice, ColourField, Line, Num, Numbers, Part, ThingChoice } from '../parts/fields';
import { ContentSelect } from '../parts/picture-select';
import { PlaceFields } from './place-fields';

const SHOWS_WORDS: Record<Layer['shows'], string> = { picture: 'a picture', programme: 'Programme', clean: 'Clean programme' };
const FIT_WORDS: Record<Fit, string> = { cover: 'filled', contain: 'whole', fill: 'pulled to fit', eye: 'filled, eyes in place' };
const PARTS = ['all', 'left half', 'right half', 'upper half', 'lower half', 'left third', 'middle third', 'right third'] as const;

export function LayerForm({ surface, layers }: { surface: Surface; layers: readonly Layer[] }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const [layer] = layers;
  if (!layer) return null;
  const ids = layers.map((l) => l.id);
  const several = layers.length > 1;
  const set = (change: Record<string, unknown>) => send('layer.set', { surface: surface.id, layers: ids, ...change });
  const on = (args: Record<string, unknown>) => send('layer.on', { surface: surface.id, layers: ids, ...args });
  const { rect, crop, border } = layer;
  const falls = surface.screens.length > 0 ? layerFalls(show, surface, layer) : null;
  return (
    <>
      <Part title="Shows">
        {!several && <Line strong showLabel max={60} label="Name of the layer" value={layer.name} onSave={(name) => set({ name })} />}
        <Choice
          label="It shows"
          value={layer.shows}
          all={LAYER_SHOWS.map((s) => [s, SHOWS_WORDS[s]])}
          onChange={(shows) => set({ shows })}
        />
        {layer.shows === 'picture' && (
          <ContentSelect
            label="Picture of the layer"
            none="nothing"
            layoutId=""
            content={layer.content}
            onChange={(content) => set({ content })}
          />
        )}
        <Choice label="Fit" value={layer.fit} all={FITS.map((f) => [f, FIT_WORDS[f]])} onChange={(fit) => set({ fit })} />
      </Part>
      <Part title="On the screens">
        <div className="flex flex-wrap gap-1" role="group" aria-label="Fill">
          {surface.screens.map((s, i) => (
            <Button
              key={s.id}
              title={`Fills ${s.name}; with Shift, the screens that it touches too`}
              onClick={(e) => on({ screens: e.shiftKey && falls ? [...new Set([...falls.screens, s.id])] : [s.id] })}
            >
              {i + 1} {s.name}
            </Button>
          ))}
          <Button unusable={surface.screens.length > 0 ? null : 'There are no screens yet.'} onClick={() => on({})}>
            Span all
          </Button>
        </div>
        <div className="flex flex-wrap gap-1" role="group" aria-label="Part of the screens that it touches">
          {PARTS.slice(1).map((part) => (
            <Button
              key={part}
              unusable={falls && falls.screens.length > 0 ? null : 'It touches no screen.'}
              onClick={() => falls && on({ screens: falls.screens.slice(0, 1), part })}
            >
              {part}
            </Button>
          ))}
        </div>
        {!several && falls && falls.off > 1e-9 && (
          <p className="text-[13px] text-caution">{Math.max(1, Math.round(falls.off * 100))} % falls between or beside the screens.</p>
        )}
      </Part>
      {!several && (
        <Part title="Place">
          <PlaceFields rect={rect} surface={surface} onPlace={(to) => set({ rect: to })} />
        </Part>
      )}
      <Part title="Look">
        <ThingChoice
          label="Style that it follows"
          none="none"
          value={layer.styleId}
          all={show.styles}
          onChange={(style) => send('layer.style', { surface: surface.id, layers: ids, style })}
        />
        <Numbers>
          <Num
            label="Opacity"
            unit="%"
            min={0}
            max={100}
            value={layer.opacity * 100}
            onCommit={(percent) => set({ opacity: percent / 100 })}
          />
          <Num label="Turned" unit="°" min={-360} max={360} value={layer.rotation} onCommit={(rotation) => set({ rotation })} />
          <Num label="Corners" unit="px" min={0} max={4000} value={layer.radius} onCommit={(radius) => set({ radius })} />
          <Num
            label="Border"
            unit="px"
            min={0}
            max={400}
            value={border.width}
            onCommit={(width) => set({ border: { ...border, width } })}
          />
          <ColourField
            label="Border colour"
            colour={border.colour}
            onChange={({ colour }) => colour !== undefined && set({ border: { ...border, colour } })}
          />
          <Num label="Zoom" digits={2} min={1} max={20} value={layer.zoom} onCommit={(zoom) => set({ zoom })} />
        </Numbers>
        <Numbers>
          {(['left', 'right', 'top', 'bottom'] as const).map((side) => (
            <Num
              key={side}
              label={`Crop ${side}`}
              unit="%"
              min={0}
              max={99}
              value={crop[side] * 100}
              onCommit={(percent) => set({ crop: { ...crop, [side]: percent / 100 } })}
            />
          ))}
        </Numbers>
      </Part>
    </>
  );
}
