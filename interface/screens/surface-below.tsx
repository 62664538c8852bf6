/** Below the canvas: the layers in Next, presets and named places, and what does not agree. */
import { ArrowDown, ArrowUp, Eye, EyeOff, Plus, Save, Trash2, X } from 'lucide-react';
import { useMemo } from 'react';
import { type Command } from '#core/commands/command';
import { surfaceFindings } from '#core/screens/checks';
import { contentWords, lookDifferences } from '#core/screens/look-words';
import { type Surface, type SurfacePreset } from '#core/screens/surface';
import { useSend, useSendAll, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { IconButton } from '../parts/icon-button';
import { ContentSelect } from '../parts/picture-select';
import { region } from '../parts/region';
import { addLayer, PLACE_DRAG } from './edits';
import { chosenOf, setRoom, useScreensRoom } from './room-state';
import { useContentFindings } from './content-findings';

const HEAD = 'flex min-h-8 items-center gap-1 border-b border-line px-2 text-sm font-semibold';

/** Findings that are listed: what is wrong comes first. */
const MOST_SHOWN = 30;

function Layers({ surface }: { surface: Surface }) {
  const client = useShowClient();
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const { layerIds } = useScreensRoom();
  const { layers, background } = surface.look;
  const chosen = chosenOf(layers, layerIds);
  return (
    <section className="flex min-h-0 min-w-0 flex-col border-r border-line" {...region('layers', 'Layers in Next')}>
      <div className={HEAD}>
        <h3 className="flex-1">Layers in Next</h3>
        <IconButton label="Add a layer" onClick={() => addLayer(client, surface)}>
          <Plus size={16} />
        </IconButton>
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Layers, the foremost first">
        {[...layers].reverse().map((layer) => {
          const on = layerIds.includes(layer.id);
          const at = layers.indexOf(layer);
          return (
            <li key={layer.id} className={`flex items-center ${on ? 'bg-raised' : ''}`}>
              <button
                className="min-w-0 flex-1 truncate px-2 py-1 text-left text-sm"
                aria-current={on}
                onClick={(e) =>
                  setRoom({
                    hand: 'layers',
                    layerIds: e.shiftKey ? (on ? layerIds.filter((id) => id !== layer.id) : [...layerIds, layer.id]) : [layer.id],
                  })
                }
              >
                <b className={layer.visible ? '' : 'text-muted'}>{layer.name}</b>{' '}
                <span className="text-[13px] text-muted">
                  {layer.shows === 'picture'
                    ? contentWords(show, layer.content)
                    : layer.shows === 'clean'
                      ? 'clean programme'
                      : 'programme'}
                </span>
              </button>
              {on && chosen.length === 1 && (
                <>
                  <IconButton
                    label={`${layer.name} forward`}
                    onClick={() => send('layer.order', { surface: surface.id, layer: layer.id, index: at + 1 })}
                  >
                    <ArrowUp size={15} />
                  </IconButton>
                  <IconButton
                    label={`${layer.name} back`}
                    onClick={() => send('layer.order', { surface: surface.id, layer: layer.id, index: Math.max(0, at - 1) })}
                  >
                    <ArrowDown size={15} />
                  </IconButton>
                </>
              )}
              <IconButton
                label={layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`}
                onClick={() => send('layer.set', { surface: surface.id, layers: [layer.id], visible: !layer.visible })}
              >
                {layer.visible ? <Eye size={15} /> : <EyeOff size={15} />}
              </IconButton>
            </li>
          );
        })}
        <li className="flex items-center gap-2 px-2 py-1 text-sm">
          <span className="shrink-0 text-muted">Behind</span>
          <ContentSelect
            label="Background"
            none="black"
            layoutId=""
            content={background}
            onChange={(content) => send('layer.background', { surface: surface.id, content })}
          />
        </li>
        {layers.length === 0 && <li className="px-2 py-1 text-[13px] text-muted">No layers. Add one with +, and put it on a screen.</li>}
      </ul>
    </section>
  );
}

function Preset({ preset, surface }: { preset: SurfacePreset; surface: Surface }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const own = preset.looks.find((l) => l.surfaceId === surface.id);
  const differs = own ? lookDifferences(show, own.look, surface.look) : [];
  return (
    <li className="group flex items-center gap-1 px-2 py-0.5">
      <button
        className="min-h-7 min-w-0 flex-1 truncate text-left text-sm"
        title="Into Next"
        aria-current={own !== undefined && differs.length === 0}
        onClick={() => send('surface.recallPreset', { preset: preset.id, to: 'next' })}
      >
        {preset.number !== null && <span className="figures mr-1 text-muted">{preset.number}</span>}
        {preset.name}
        {preset.looks.length > 1 && <span className="ml-1 text-[13px] text-muted">{preset.looks.length} surfaces</span>}
        {own !== undefined && differs.length === 0 && <span className="ml-1 text-[13px] text-next">in Next</span>}
      </button>
      <HoldButton look="air" title="Hold to put it on air" onHeld={() => send('surface.recallPreset', { preset: preset.id, to: 'air' })}>
        Air
      </HoldButton>
      <HoldButton
        title={differs.length > 0 ? `Hold to overwrite: ${differs.join(', ')}` : 'Hold to overwrite; nothing differs'}
        aria-label={`Overwrite ${preset.name}`}
        onHeld={() => send('surface.overwritePreset', { preset: preset.id })}
      >
        <Save size={15} />
      </HoldButton>
      <IconButton label={`Remove ${preset.name}`} onClick={() => send('surface.removePreset', { preset: preset.id })}>
        <Trash2 size={15} />
      </IconButton>
    </li>
  );
}

function Presets({ surface }: { surface: Surface }) {
  const send = useSend();
  const { presets, surfaces } = useShow(({ desk }) => desk.show.screens);
  const layerIds = useScreensRoom((s) => s.layerIds);
  const layer = chosenOf(surface.look.layers, layerIds)[0];
  return (
    <section className="flex min-h-0 min-w-0 flex-col border-r border-line" {...region('presets', 'Presets and places')}>
      <div className={HEAD}>
        <h3 className="flex-1">Presets</h3>
        <Button title="Keeps what is in Next of this surface" onClick={() => send('surface.storePreset', { surfaces: [surface.id] })}>
          Store
        </Button>
        {surfaces.length > 1 && (
          <Button title="Keeps what is in Next of all surfaces" onClick={() => send('surface.storePreset', { surfaces: [] })}>
            Store all
          </Button>
        )}
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Presets">
        {presets
          .filter((p) => p.looks.some((l) => l.surfaceId === surface.id))
          .map((p) => (
            <Preset key={p.id} preset={p} surface={surface} />
          ))}
        {presets.length === 0 && (
          <li className="px-2 py-1 text-[13px] text-muted">Store keeps what is in Next by name, to be put into Next or on air again.</li>
        )}
      </ul>
      <div className="flex max-h-[76px] flex-wrap items-center gap-1 overflow-y-auto border-t border-line px-2 py-1">
        {surface.places.map((place, i) => (
          <span key={place.id} className="flex">
            <Button
              draggable
              onDragStart={(e) => e.dataTransfer.setData(PLACE_DRAG, place.id)}
              unusable={layerIds.length > 0 ? null : 'Choose a layer first, or drop this on one.'}
              title={`The chosen layer fills ${place.name}`}
              keyFor="screens.place"
              keyArgs={{ number: i + 1 }}
              onClick={() =>
                send('layer.on', { surface: surface.id, layers: chosenOf(surface.look.layers, layerIds).map((l) => l.id), place: place.id })
              }
            >
              {place.name}
            </Button>
            <IconButton
              label={`Forget ${place.name}`}
              onClick={() => send('surface.removePlace', { surface: surface.id, place: place.id })}
            >
              <X size={14} />
            </IconButton>
          </span>
        ))}
        <Button
          look="quiet"
          unusable={layer ? null : 'Choose a layer: its place is kept by its name.'}
          onClick={() => layer && send('surface.addPlace', { surface: surface.id, name: layer.name, rect: layer.rect })}
        >
          + Place
        </Button>
      </div>
    </section>
  );
}

function Checks({ surface }: { surface: Surface }) {
  const sendAll = useSendAll();
  const show = useShow(({ desk }) => desk.show);
  const sizes = useShow((s) => s.sizes);
  const own = useMemo(() => surfaceFindings(show, surface, sizes), [show, surface, sizes]);
  const content = useContentFindings(surface);
  const all = [...own, ...content.findings];
  const mend = (command: Command) => sendAll([command]);
  return (
    <section className="flex min-h-0 min-w-0 flex-col" {...region('checks', 'What does not agree')}>
      <div className={HEAD}>
        <h3 className="flex-1">
          {all.length === 0 ? 'Everything agrees' : `${all.length} ${all.length === 1 ? 'thing does' : 'things do'} not agree`}
        </h3>
        {surface.templateId !== null && (
          <Button
            title="Looks for the areas of the template again"
            onClick={content.search}
            unusable={content.busy ? 'It is being searched.' : null}
          >
            {content.busy ? 'Searching…' : 'Search template'}
          </Button>
        )}
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Findings">
        {all.slice(0, MOST_SHOWN).map((f) => (
          <li key={f.text} className="border-b border-line px-2 py-1 text-[13px]">
            <button
              className="min-h-7 text-left"
              onClick={() =>
                setRoom(f.layerId === undefined ? { hand: 'screens', screenIds: f.screenIds } : { hand: 'layers', layerIds: [f.layerId] })
              }
            >
              <span className={f.weight === 'wrong' ? 'font-semibold text-caution' : ''}>{f.text}</span>
            </button>
            {f.fixes.length > 0 && (
              <span className="mt-0.5 flex flex-wrap gap-1">
                {f.fixes.map(({ title, command }) => (
                  <Button key={title} onClick={() => mend(command)}>
                    {title}
                  </Button>
                ))}
              </span>
            )}
          </li>
        ))}
        {all.length > MOST_SHOWN && (
          <li className="px-2 py-1 text-[13px] text-muted">And {all.length - MOST_SHOWN} more: those above come first.</li>
        )}
        {content.trouble !== '' && <li className="px-2 py-1 text-[13px] text-caution">{content.trouble}</li>}
        {all.length === 0 && (
          <li className="px-2 py-1 text-[13px] text-muted">
            Sizes, outputs, overlaps and layers fit. A template of the venue can be chosen at the right, and is compared.
          </li>
        )}
      </ul>
    </section>
  );
}

export function SurfaceBelow({ surface }: { surface: Surface }) {
  return (
    <div className="grid h-[196px] shrink-0 grid-cols-3 border-t border-line max-beside:h-auto max-beside:grid-cols-1">
      <Layers surface={surface} />
      <Presets surface={surface} />
      <Checks surface={surface} />
    </div>
  );
}
