/** The room Layouts. */
import { ArrowDown, ArrowUp, CopyPlus, Plus, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { STARTER_NAMES, STARTERS, usualSpacing } from '#core/layout/starters';
import { walkThrough } from '#core/layout/walk-through';
import { type Box, type Layout } from '#core/layout/document';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { Popover } from '../parts/popover';
import { Tabs } from '../parts/tabs';
import { BoxFields } from './box-fields';
import { BoxTools } from './box-tools';
import { useFrameArt } from './frame-art';
import { FramingEditor, FramingsList } from './framings-panel';
import { LayoutPanel } from './layout-panel';
import { PictureTile } from './picture-tile';
import { SeatsPanel } from './seats-panel';
import { LayoutCanvas, type CanvasTools } from './layout-canvas';
import { StylesPanel } from './styles-panel';

function AddLayout({ onAdded }: { onAdded: (id: string) => void }) {
  const host = useShowClient();
  const raster = useShow(({ desk: { show } }) => show.raster);
  const usual = usualSpacing(raster);
  const [open, setOpen] = useState(false);
  const [margin, setMargin] = useState(usual.margin);
  const [gap, setGap] = useState(usual.gap);
  const add = (starter?: string) => {
    const done = host.dispatch({ type: 'layout.add', args: starter ? { starter, margin, gap } : {} });
    if (done.ok) onAdded(String(done.result.id));
    setOpen(false);
  };
  return (
    <Popover
      label="New layout"
      align="start"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button>
          <Plus size={15} /> Layout
        </Button>
      }
    >
      <div className="flex w-48 flex-col gap-1">
        <div className="mb-1 flex gap-2">
          <NumberField
            className="w-20"
            showLabel
            label="Margin"
            min={0}
            max={2000}
            whole={raster.height}
            value={margin}
            onCommit={setMargin}
          />
          <NumberField className="w-20" showLabel label="Gap" min={0} max={2000} whole={raster.height} value={gap} onCommit={setGap} />
        </div>
        {STARTERS.map((starter) => (
          <Button key={starter} className="justify-start!" onClick={() => add(starter)}>
            {STARTER_NAMES[starter]}
          </Button>
        ))}
        <Button className="justify-start!" onClick={() => add()}>
          Empty
        </Button>
      </div>
    </Popover>
  );
}

/** What the pictures of the show still lack. */
function WalkThrough() {
  const { show, air, sizes } = useShow(({ desk, sizes }) => ({ show: desk.show, air: desk.air, sizes }));
  const findings = useMemo(() => walkThrough(show, air, sizes).map((f) => f.text), [show, air, sizes]);
  if (findings.length === 0) return <p className="p-2 text-xs text-next">Nothing is missing in seats and layouts.</p>;
  return (
    <ul className="p-2" aria-label="Walk-through">
      {findings.map((text) => (
        <li key={text} className="border-t border-line py-1 text-xs text-caution first:border-0">
          {text}
        </li>
      ))}
    </ul>
  );
}

/** Keys of this room while a layout is open. */
function useLayoutKeys(
  layout: Layout | undefined,
  chosen: readonly Box[],
  act: { copy: () => void; paste: () => void; choose: (ids: string[]) => void; crop: () => void },
): void {
  const send = useSend();
  const host = useShowClient();
  useEffect(() => {
    if (!layout) return undefined;
    const ids = chosen.map((b) => b.id);
    const down = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (event.defaultPrevented || target?.closest('input, textarea, select, [role=dialog], [contenteditable]')) return;
      const ctrl = event.ctrlKey || event.metaKey;
      const step = event.shiftKey ? 10 : 1;
      const arrows: Record<string, [number, number]> = {
        ArrowLeft: [-step, 0],
        ArrowRight: [step, 0],
        ArrowUp: [0, -step],
        ArrowDown: [0, step],
      };
      const arrow = arrows[event.code];
      const run = (): boolean => {
        if (ctrl && event.code === 'KeyZ') return send(event.shiftKey ? 'history.redo' : 'history.undo') || true;
        if (ctrl && event.code === 'KeyA') return (act.choose(layout.boxes.filter((b) => !b.locked).map((b) => b.id)), true);
        if (event.code === 'Escape') return (act.choose([]), true);
        if (event.code === 'KeyC' && !ctrl) return (act.crop(), true);
        if (event.code === 'KeyN' && !ctrl && layout.boxes.length > 0) {
          const at = layout.boxes.findIndex((b) => b.id === ids[0]);
          const next = layout.boxes[(at + (event.shiftKey ? layout.boxes.length - 1 : 1) + layout.boxes.length) % layout.boxes.length];
          if (next) act.choose([next.id]);
          return true;
        }
        if (ids.length === 0) return false;
        if (arrow && !target?.closest('[role=tablist], [role=radiogroup]'))
          return send('box.nudge', { layout: layout.id, boxes: ids, x: arrow[0], y: arrow[1] }) || true;
        if (event.code === 'Delete' || event.code === 'Backspace')
          return (send('box.remove', { layout: layout.id, boxes: ids }) && act.choose([]), true);
        if (ctrl && event.code === 'KeyD') return send('box.duplicate', { layout: layout.id, boxes: ids }) || true;
        if (ctrl && event.code === 'KeyC') return (act.copy(), true);
        if (ctrl && event.code === 'KeyV') return (act.paste(), true);
        const digit = /^Digit([1-9])$/.exec(event.code);
        const style = event.altKey && digit ? host.state.desk.show.styles[Number(digit[1]) - 1] : undefined;
        if (style) return send('style.apply', { style: style.id, layout: layout.id, boxes: ids }) || true;
        return false;
      };
      if (run()) event.preventDefault();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [layout, chosen, send, host, act]);
}

function Editor({ layout }: { layout: Layout }) {
  const send = useSend();
  const art = useFrameArt(layout.id);
  const [chosen, setChosen] = useState<string[]>([]);
  const [tab, setTab] = useState('box');
  const [tools, setTools] = useState<CanvasTools>({ crop: false, locked: false, snap: true, safe: false });
  const copied = useCopied();
  const boxes = layout.boxes.filter((b) => chosen.includes(b.id));
  const copy = () => boxes[0] && copied.set({ layout: layout.id, box: boxes[0].id });
  const paste = () =>
    copied.value && send('box.paste', { layout: layout.id, boxes: chosen, fromLayout: copied.value.layout, fromBox: copied.value.box });
  useLayoutKeys(layout, boxes, { copy, paste, choose: setChosen, crop: () => setTools({ ...tools, crop: !tools.crop }) });
  return (
    <>
      <div className="flex min-h-0 min-w-0 flex-col">
        <BoxTools
          layout={layout}
          boxes={boxes}
          tools={tools}
          onTools={(change) => setTools({ ...tools, ...change })}
          copied={copied.value}
          onCopy={copy}
          onPaste={paste}
          onChoose={setChosen}
        />
        <LayoutCanvas
          layoutId={layout.id}
          boxes={layout.boxes}
          chosen={chosen}
          onChoose={setChosen}
          tools={tools}
          onFile={(file) => void art.fromFile(file)}
        />
        <ol className="flex shrink-0 gap-1 overflow-x-auto border-t border-line p-1" aria-label="Boxes from back to front">
          {layout.boxes.map((b) => (
            <li key={b.id}>
              <Button
                pressed={chosen.includes(b.id)}
                className={b.visible ? '' : 'opacity-60'}
                onClick={(e) =>
                  setChosen(e.shiftKey ? (chosen.includes(b.id) ? chosen.filter((id) => id !== b.id) : [...chosen, b.id]) : [b.id])
                }
              >
                {b.name}
              </Button>
            </li>
          ))}
          {layout.boxes.length === 0 && (
            <li className="px-1 py-1 text-muted">No boxes yet. Add one, or drop frame artwork on the picture.</li>
          )}
        </ol>
      </div>
      <aside className="flex min-h-0 flex-col border-l border-line" aria-label="Settings">
        <Tabs
          label="Settings"
          value={tab}
          onChange={setTab}
          tabs={[
            {
              value: 'box',
              label: chosen.length > 1 ? `${chosen.length} boxes` : 'Box',
              content: (
                <BoxFields layout={layout} boxes={boxes} locked={tools.locked} onLock={(locked) => setTools({ ...tools, locked })} />
              ),
            },
            { value: 'layout', label: 'Layout', content: <LayoutPanel layout={layout} /> },
            { value: 'styles', label: 'Styles', content: <StylesPanel layout={layout} boxes={boxes} /> },
            { value: 'seats', label: 'Seats', content: <SeatsPanel /> },
          ]}
        />
      </aside>
    </>
  );
}

/** The box whose geometry was copied; kept from one layout to another. */
let clipboard: { layout: string; box: string } | null = null;
function useCopied() {
  const [value, setValue] = useState(clipboard);
  return {
    value,
    set: (next: { layout: string; box: string }) => {
      clipboard = next;
      setValue(next);
    },
  };
}

/** The room where pictures are built: layouts of boxes, framings, styles, seats. */
export function LayoutsRoom() {
  const send = useSend();
  const { layouts, presets } = useShow(({ desk: { show } }) => ({ layouts: show.layouts, presets: show.presets }));
  const [mode, setMode] = useState('layouts');
  const [openId, setOpenId] = useState<string | null>(null);
  const [framingId, setFramingId] = useState<string | null>(null);
  const all: Layout[] = [...layouts, ...presets];
  const layout = all.find((l) => l.id === openId) ?? layouts[0];
  const place = layouts.findIndex((l) => l.id === layout?.id);
  const tile = ({ id, name, number }: Layout) => (
    <li key={id}>
      <PictureTile id={id} name={name} number={number} chosen={id === layout?.id} onPress={() => setOpenId(id)} />
    </li>
  );
  const list = (
    <div className="flex flex-col gap-2 p-2">
      <div className="flex gap-1">
        <AddLayout onAdded={setOpenId} />
        {layout && (
          <>
            <Button
              look="quiet"
              className="px-1!"
              aria-label="Duplicate this layout"
              title="Duplicate this layout"
              onClick={() => send('layout.duplicate', { layout: layout.id })}
            >
              <CopyPlus size={15} />
            </Button>
            <Button
              look="quiet"
              className="px-1!"
              aria-label="This layout further up"
              title="Further up in the list"
              onClick={() => send('layout.move', { layout: layout.id, index: Math.max(0, place - 1) })}
            >
              <ArrowUp size={15} />
            </Button>
            <Button
              look="quiet"
              className="px-1!"
              aria-label="This layout further down"
              title="Further down in the list"
              onClick={() => send('layout.move', { layout: layout.id, index: place + 1 })}
            >
              <ArrowDown size={15} />
            </Button>
            <Button
              look="quiet"
              className="px-1!"
              aria-label="Remove this layout"
              title="Remove this layout"
              onClick={() => send('layout.remove', { layout: layout.id })}
            >
              <Trash2 size={15} />
            </Button>
            <Button
              className="ml-auto px-1.5!"
              title="Put this layout into Next"
              onClick={() => send('picture.setNext', { picture: layout.id })}
            >
              Next
            </Button>
          </>
        )}
      </div>
      <ul className="grid gap-2 max-[1099px]:grid-cols-3">{layouts.map(tile)}</ul>
      {presets.length > 0 && <h3 className="text-xs font-semibold text-muted">Presets</h3>}
      <ul className="grid gap-2 max-[1099px]:grid-cols-3">{presets.map(tile)}</ul>
      <h3 className="text-xs font-semibold text-muted">Walk-through</h3>
      <WalkThrough />
    </div>
  );
  return (
    <main className="grid h-[calc(100dvh-44px)] grid-cols-[224px_minmax(0,1fr)_316px] overflow-hidden max-[1099px]:h-auto max-[1099px]:grid-cols-1 max-[1099px]:overflow-visible">
      <h1 className="sr-only">Layouts</h1>
      <nav className="flex min-h-0 flex-col border-r border-line" aria-label="Layouts and framings">
        <Tabs
          label="What to build"
          value={mode}
          onChange={setMode}
          tabs={[
            { value: 'layouts', label: 'Layouts', content: list },
            { value: 'framings', label: 'Framings', content: <FramingsList openId={framingId} onOpen={setFramingId} /> },
          ]}
        />
      </nav>
      {mode === 'framings' ? (
        <FramingEditor key={framingId} framingId={framingId} />
      ) : layout ? (
        <Editor key={layout.id} layout={layout} />
      ) : (
        <p className="p-6 text-muted">No layouts yet. Begin with two boxes, or a picture in a picture: press Layout.</p>
      )}
    </main>
  );
}
