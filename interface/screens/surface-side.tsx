/** Numbers of what is chosen on the canvas: screens, layers, or the surface itself. */
import { Lock, LockOpen, Trash2 } from 'lucide-react';
import { ALIGNMENTS, type Alignment } from '#core/layout/arrange';
import { CURVES, type Curve, type Surface } from '#core/screens/surface';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Choice, Line, Num, Numbers, Part, ThingChoice } from '../parts/fields';
import { HoldButton } from '../parts/hold-button';
import { IconButton } from '../parts/icon-button';
import { addScreen } from './edits';
import { useShowClient } from '../client/show-client';
import { FromPictures } from './from-pictures';
import { LayerForm } from './layer-form';
import { LengthField } from './length-field';
import { UnitChoice } from './unit-choice';
import { PlanFiles } from './plan-files';
import { chosenOf, setRoom, useScreensRoom } from './room-state';
import { ScreenForm } from './screen-form';

const ALIGN_WORDS: Record<Alignment, string> = {
  left: 'Left',
  centre: 'Centre',
  right: 'Right',
  top: 'Top',
  middle: 'Middle',
  bottom: 'Bottom',
};

const CURVE_WORDS: Record<Curve, string> = { straight: 'straight', smooth: 'smooth', cosine: 'cosine' };

function SurfaceForm({ surface }: { surface: Surface }) {
  const client = useShowClient();
  const send = useSend();
  const stills = useShow(({ desk }) => desk.show.sources.filter((s) => s.settings.kind === 'still'));
  const { id, blend, pitch } = surface;
  const set = (change: Record<string, unknown>) => send('surface.set', { surface: id, ...change });
  return (
    <>
      <Part
        title="Surface"
        action={
          <HoldButton
            look="quiet"
            title="Hold to remove the surface with its screens and layers"
            aria-label={`Remove ${surface.name}`}
            onHeld={() => send('surface.remove', { surface: id })}
          >
            <Trash2 size={15} />
          </HoldButton>
        }
      >
        <Line strong showLabel max={60} label="Name of the surface" value={surface.name} onSave={(name) => set({ name })} />
        <Numbers>
          <LengthField label="Canvas width" value={surface.width} pitch={pitch} min={16} onCommit={(width) => set({ width })} />
          <LengthField label="Canvas height" value={surface.height} pitch={pitch} min={16} onCommit={(height) => set({ height })} />
        </Numbers>
        <Numbers>
          <Num
            label="A pixel measures"
            unit="mm"
            digits={3}
            min={0.05}
            max={1000}
            value={pitch}
            onCommit={(value) => set({ pitch: value })}
          />
          <UnitChoice />
        </Numbers>
        <div className="flex flex-wrap gap-1">
          <Button
            title="The canvas becomes just large enough for all screens"
            unusable={surface.screens.length > 0 ? null : 'There are no screens yet.'}
            onClick={() => send('surface.fit', { surface: id })}
          >
            Fit to screens
          </Button>
          <Button keyFor="screens.addScreen" onClick={() => addScreen(client, surface)}>
            + Screen
          </Button>
          <FromPictures surface={surface} />
          <PlanFiles surface={surface} />
        </div>
        <Num
          label="Another scale: everything keeps its real size"
          unit="mm a pixel"
          digits={3}
          min={0.05}
          max={1000}
          value={pitch}
          onCommit={(value) => send('surface.rescale', { surface: id, pitch: value })}
        />
      </Part>
      <Part title="Blends">
        <Numbers>
          <Choice
            label="Curve"
            value={blend.curve}
            all={CURVES.map((c) => [c, CURVE_WORDS[c]])}
            onChange={(curve) => set({ blend: { ...blend, curve } })}
          />
          <Num label="Gamma" digits={2} min={1} max={4} value={blend.gamma} onCommit={(gamma) => set({ blend: { ...blend, gamma } })} />
          <Num
            label="Black lift"
            unit="%"
            digits={1}
            min={0}
            max={30}
            value={blend.lift * 100}
            onCommit={(lift) => set({ blend: { ...blend, lift: lift / 100 } })}
          />
        </Numbers>
      </Part>
      <Part title="Template of the venue">
        <ThingChoice
          label="Still made for it"
          none="none"
          value={surface.templateId}
          all={stills}
          onChange={(templateId) => set({ templateId })}
        />
        <p className="text-[13px] text-muted">
          It lies under the layers in Next while they are placed, and never goes to air. Its areas are compared with the screens.
        </p>
      </Part>
    </>
  );
}

/** Edits of several at once. */
function Several({ surface, ids }: { surface: Surface; ids: string[] }) {
  const send = useSend();
  const args = { surface: surface.id, screens: ids };
  const first = surface.screens.find((x) => ids.includes(x.id));
  const lineUp = (axis: 'across' | 'down') => (gap: number) => send('surface.lineUp', { ...args, axis, gap });
  return (
    <Part title={`${ids.length} screens together`}>
      <div className="flex flex-wrap gap-1" role="group" aria-label="Align">
        {ALIGNMENTS.map((how) => (
          <Button key={how} onClick={() => send('surface.alignScreens', { ...args, how })}>
            {ALIGN_WORDS[how]}
          </Button>
        ))}
        <Button
          unusable={ids.length > 2 ? null : 'Choose three or more.'}
          onClick={() => send('surface.distributeScreens', { ...args, axis: 'across' })}
        >
          Even across
        </Button>
        <Button
          unusable={ids.length > 2 ? null : 'Choose three or more.'}
          onClick={() => send('surface.distributeScreens', { ...args, axis: 'down' })}
        >
          Even down
        </Button>
      </div>
      <Numbers>
        <LengthField
          key={`${ids.join()} across`}
          label="Line up across: gap"
          value={0}
          pitch={surface.pitch}
          whole={first?.rect.width ?? 0}
          onCommit={lineUp('across')}
        />
        <LengthField
          key={`${ids.join()} down`}
          label="Line up down: gap"
          value={0}
          pitch={surface.pitch}
          whole={first?.rect.height ?? 0}
          onCommit={lineUp('down')}
        />
      </Numbers>
      <p className="text-[13px] text-muted">A gap below 0 is an overlap: −0.6 m, −240, −12%.</p>
    </Part>
  );
}

export function SurfaceSide({ surface }: { surface: Surface }) {
  const send = useSend();
  const { hand, screenIds, layerIds } = useScreensRoom();
  const screens = hand === 'screens' ? chosenOf(surface.screens, screenIds) : [];
  const layers = hand === 'layers' ? chosenOf(surface.look.layers, layerIds) : [];
  const chosen = [...screens, ...layers];
  if (chosen.length === 0) return <SurfaceForm key={surface.id} surface={surface} />;
  const ids = chosen.map((c) => c.id);
  const locked = chosen.every((c) => c.locked);
  const lock = () =>
    hand === 'screens'
      ? send('surface.setScreens', { surface: surface.id, screens: ids, locked: !locked })
      : send('layer.set', { surface: surface.id, layers: ids, locked: !locked });
  const remove = () => {
    const done =
      hand === 'screens'
        ? send('surface.removeScreens', { surface: surface.id, screens: ids })
        : send('layer.remove', { surface: surface.id, layers: ids });
    if (done) setRoom({ screenIds: [], layerIds: [] });
  };
  return (
    <>
      <div className="flex items-center gap-1 border-b border-line p-2">
        <span className="figures flex-1 text-2xl font-semibold text-straw">
          {chosen.length} {chosen.length === 1 ? hand.slice(0, -1) : hand}
        </span>
        <IconButton label={locked ? 'Unlock' : 'Lock'} onClick={lock}>
          {locked ? <Lock size={16} /> : <LockOpen size={16} />}
        </IconButton>
        <IconButton label="Remove what is chosen" onClick={remove}>
          <Trash2 size={16} />
        </IconButton>
        <Button keyFor="screens.none" title="Leaves none chosen" onClick={() => setRoom({ screenIds: [], layerIds: [] })}>
          Done
        </Button>
      </div>
      {screens.length > 1 && <Several surface={surface} ids={ids} />}
      {screens.length > 0 && <ScreenForm key={ids.join()} surface={surface} screens={screens} />}
      {layers.length > 0 && <LayerForm key={ids.join()} surface={surface} layers={layers} />}
    </>
  );
}
