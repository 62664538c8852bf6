/** A surface: what is on air and what the take will change above, Next as large as it goes below. */
import { ZoomIn, ZoomOut } from 'lucide-react';
import { lookDifferences } from '#core/screens/look-words';
import { surfaceNow } from '#core/screens/air';
import { type Surface, SURFACE_CHANGES, type SurfaceChange } from '#core/screens/surface';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Monitor } from '../parts/monitor';
import { NumberField } from '../parts/number-field';
import { useRoving } from '../parts/roving';
import { TallyFrame } from '../parts/tally-frame';
import { nextSurfaceTest, toggleSurfaceOver, zoomBy } from './edits';
import { setRoom, useScreensRoom } from './room-state';
import { SurfaceCanvas } from './surface-canvas';
import { showsWords } from '#core/screens/words';

const CHANGE_WORDS: Record<SurfaceChange['kind'], string> = { cut: 'Cut', dissolve: 'Dissolve', dip: 'Dip', glide: 'Glide' };
const AIR_TALLY = { onAir: true, inUse: false, next: false, nextInUse: false };
const NEXT_TALLY = { onAir: false, inUse: false, next: true, nextInUse: false };

/** What the mouse works on, how the picture is seen. */
function Tools() {
  const { hand, light, snap, template, view, proportions, safe } = useScreensRoom();
  const tools = useRoving<HTMLDivElement>();
  return (
    <div ref={tools} className="flex flex-wrap items-center gap-1" role="group" aria-label="The canvas">
      <Button
        pressed={hand === 'layers'}
        keyFor="screens.hand"
        title="The mouse works on layers"
        onClick={() => setRoom({ hand: 'layers' })}
      >
        Layers
      </Button>
      <Button
        pressed={hand === 'screens'}
        keyFor="screens.hand"
        title="The mouse works on screens"
        onClick={() => setRoom({ hand: 'screens' })}
      >
        Screens
      </Button>
      <span className="mx-1 h-5 w-px bg-line" />
      <label className="flex items-center gap-1 text-sm">
        <span className="sr-only">Seen as</span>
        <select
          aria-label="Seen as"
          className="max-w-36"
          value={light ?? 'sent'}
          onChange={(e) => setRoom({ light: e.target.value === 'sent' ? null : (e.target.value as 'blended' | 'unblended') })}
        >
          <option value="sent">as it is sent</option>
          <option value="blended">on the wall, blended</option>
          <option value="unblended">on the wall, without blends</option>
        </select>
      </label>
      <Button pressed={snap} title="Edges snap to screens, halves, thirds and places" onClick={() => setRoom({ snap: !snap })}>
        Snap
      </Button>
      <Button
        pressed={template}
        title="The picture made for the venue lies under the layers; it never goes to air"
        onClick={() => setRoom({ template: !template })}
      >
        Template
      </Button>
      <Button
        pressed={proportions}
        title="Width and height keep their proportions: changing one changes the other"
        onClick={() => setRoom({ proportions: !proportions })}
      >
        Proportions
      </Button>
      <Button pressed={safe} title="Safe areas of all screens, 93 and 90 %" onClick={() => setRoom({ safe: !safe })}>
        Safe
      </Button>
      <IconButton label="Nearer" onClick={() => zoomBy(1 / 1.5)}>
        <ZoomIn size={16} />
      </IconButton>
      <IconButton label="Farther" onClick={() => zoomBy(1.5)}>
        <ZoomOut size={16} />
      </IconButton>
      <Button title="All of the canvas" unusable={view ? null : 'All of it is seen.'} onClick={() => setRoom({ view: null })}>
        All
      </Button>
    </div>
  );
}

/** What may stand across all screens for a moment. */
function Overs({ surface }: { surface: Surface }) {
  const client = useShowClient();
  const now = useShow(({ desk }) => surfaceNow(desk.air.screens, surface.id, 0));
  const tools = useRoving<HTMLDivElement>();
  return (
    <div ref={tools} className="flex gap-1" role="group" aria-label="Across all screens">
      <Button
        pressed={now.over?.kind === 'frozen'}
        keyFor="screens.freeze"
        title="All screens keep the frame that they show"
        onClick={() => toggleSurfaceOver(client, surface, { kind: 'frozen' })}
      >
        Freeze
      </Button>
      <Button
        pressed={now.over?.kind === 'card'}
        keyFor="screens.card"
        title="Every screen shows its number, name and pixels"
        onClick={() => toggleSurfaceOver(client, surface, { kind: 'card' })}
      >
        Names
      </Button>
      <Button
        pressed={now.over?.kind === 'test'}
        keyFor="screens.test"
        title="The next test picture across all screens; after the last, what is on air"
        onClick={() => nextSurfaceTest(client, surface)}
      >
        Test
      </Button>
      <Button
        pressed={now.over?.kind === 'black'}
        keyFor="screens.black"
        onClick={() => toggleSurfaceOver(client, surface, { kind: 'black' })}
      >
        Black
      </Button>
    </div>
  );
}

/** What a take will change, and the take itself. */
function Take({ surface }: { surface: Surface }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const screens = useShow(({ desk }) => desk.air.screens);
  const now = surfaceNow(screens, surface.id, 0);
  const lines = lookDifferences(show, surfaceNow(screens, surface.id, Infinity).look, surface.look);
  const { change } = surface;
  const same = lines.length === 0 ? 'What is in Next is on air.' : null;
  const set = (part: Partial<SurfaceChange>) => send('surface.set', { surface: surface.id, change: { ...change, ...part } });
  return (
    <div className="flex min-w-0 flex-1 flex-col gap-1">
      <div className="flex flex-wrap items-center gap-1">
        <Button look="straw" keyFor="screens.take" unusable={same} onClick={() => send('surface.take', { surfaces: [surface.id] })}>
          Take
        </Button>
        <Button
          keyFor="screens.cut"
          title="Next to air at once"
          onClick={() => send('surface.take', { surfaces: [surface.id], cut: true })}
        >
          Cut
        </Button>
        <select
          aria-label="Transition of the surface"
          value={change.kind}
          onChange={(e) => set({ kind: e.target.value as SurfaceChange['kind'] })}
        >
          {SURFACE_CHANGES.map((kind) => (
            <option key={kind} value={kind}>
              {CHANGE_WORDS[kind]}
            </option>
          ))}
        </select>
        {change.kind !== 'cut' && (
          <NumberField
            label="Frames of the transition"
            className="w-16"
            min={1}
            max={1500}
            value={change.frames}
            onCommit={(frames) => set({ frames })}
          />
        )}
        <Button
          pressed={surface.withTake}
          title="The take of the programme takes this surface too"
          onClick={() => send('surface.set', { surface: surface.id, withTake: !surface.withTake })}
        >
          With the programme
        </Button>
        {same === null && (
          <Button look="quiet" title="Next becomes what is on air" onClick={() => send('surface.asOnAir', { surface: surface.id })}>
            Next as on air
          </Button>
        )}
      </div>
      {now.over && (
        <p className="text-sm">
          <span className="rounded bg-caution px-1 font-semibold text-deep">{showsWords(show, now.over)}</span> stands across all screens.
        </p>
      )}
      <ul className="flex min-h-0 flex-1 flex-wrap content-start gap-x-4 overflow-y-auto text-sm" aria-label="What the take will change">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
        {same && <li className="text-muted">The take changes nothing: Next is on air.</li>}
      </ul>
    </div>
  );
}

export function SurfaceStage({ surface }: { surface: Surface }) {
  const shape = `${surface.width} / ${surface.height}`;
  return (
    <>
      <header className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 p-2">
        <h2 className="min-w-0 truncate text-lg font-semibold">{surface.name}</h2>
        <span className="figures text-sm text-muted">
          {surface.width}×{surface.height}
        </span>
        <span className="ml-auto">
          <Overs surface={surface} />
        </span>
      </header>
      <div className="flex h-[112px] shrink-0 gap-3 px-2 pb-2">
        <div className="grid w-[36%] shrink-0 place-items-center" style={{ containerType: 'size' }}>
          <div
            className="relative bg-black"
            style={{ aspectRatio: shape, width: `min(100cqw, ${(100 * surface.width) / surface.height}cqh)` }}
          >
            <Monitor
              picture={{ kind: 'canvas', surfaceId: surface.id, which: 'air', view: null, light: null }}
              label={`${surface.name} on air`}
              className="h-full w-full"
            />
            <TallyFrame tally={AIR_TALLY} small />
          </div>
        </div>
        <Take surface={surface} />
      </div>
      <div className="shrink-0 border-t border-line px-2 py-1">
        <Tools />
      </div>
      <div className="relative flex min-h-0 flex-1">
        <SurfaceCanvas surface={surface} />
        <TallyFrame tally={NEXT_TALLY} small />
      </div>
    </>
  );
}
