/** The room Layouts. */
import { ArrowDown, ArrowUp, CopyPlus, Plus, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { STARTER_NAMES, STARTERS, usualSpacing } from '#core/layout/starters';
import { walkThrough } from '#core/layout/walk-through';
import { type Layout } from '#core/layout/document';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { region } from '../parts/region';
import { NumberField } from '../parts/number-field';
import { Popover } from '../parts/popover';
import { useRoving } from '../parts/roving';
import { Tabs } from '../parts/tabs';
import { BoxFields } from './box-fields';
import { BoxTools } from './box-tools';
import { useFrameArt } from './frame-art';
import { FramingEditor, FramingsList } from './framings-panel';
import { LayoutPanel } from './layout-panel';
import { PictureTile } from './picture-tile';
import { SeatsPanel } from './seats-panel';
import { LayoutCanvas } from './layout-canvas';
import { type CanvasTools, openLayout, openLayoutById, setLayoutsRoom, useLayoutsRoom } from './room-state';
import { StylesPanel } from './styles-panel';
import { COLUMNS } from '../parts/columns';

function AddLayout({ onAdded }: { onAdded: (id: string) => void }) {
  const host = useShowClient();
  const raster = useShow(({ desk: { show } }) => show.raster);
  const usual = usualSpacing(raster);
  const open = useLayoutsRoom((s) => s.adding);
  const setOpen = (adding: boolean) => setLayoutsRoom({ adding });
  const list = useRoving<HTMLDivElement>({ always: true });
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
        <Button title="New layout" keyFor="layouts.new">
          <Plus size={15} /> Layout
        </Button>
      }
    >
      <div ref={list} className="flex w-48 flex-col gap-1">
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
          <Button key={starter} data-role="starter" className="justify-start!" onClick={() => add(starter)}>
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

function Editor({ layout }: { layout: Layout }) {
  const send = useSend();
  const art = useFrameArt(layout.id);
  const { chosen, tab, tools, copied } = useLayoutsRoom();
  const settings = useRoving<HTMLElement>();
  const picture = useRoving<HTMLDivElement>();
  const boxes = layout.boxes.filter((b) => chosen.includes(b.id));
  const setChosen = (ids: string[]) => setLayoutsRoom({ chosen: ids });
  const setTools = (next: CanvasTools) => setLayoutsRoom({ tools: next });
  const copy = () => boxes[0] && setLayoutsRoom({ copied: { layout: layout.id, box: boxes[0].id } });
  const paste = () => copied && send('box.paste', { layout: layout.id, boxes: chosen, fromLayout: copied.layout, fromBox: copied.box });
  return (
    <>
      <div ref={picture} className="flex min-h-0 min-w-0 flex-col" role="region" {...region('picture', 'The picture')}>
        <BoxTools
          layout={layout}
          boxes={boxes}
          tools={tools}
          onTools={(change) => setTools({ ...tools, ...change })}
          copied={copied}
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
      <aside ref={settings} className="flex min-h-0 flex-col border-l border-line" {...region('settings', 'Settings')}>
        <Tabs
          label="Settings"
          value={tab}
          onChange={(value) => setLayoutsRoom({ tab: value as typeof tab })}
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

/** The room where pictures are built: layouts of boxes, framings, styles, seats. */
export function LayoutsRoom() {
  const send = useSend();
  const { layouts, presets } = useShow(({ desk: { show } }) => ({ layouts: show.layouts, presets: show.presets }));
  const { mode, openId, framingId } = useLayoutsRoom();
  const layout = openLayout({ layouts, presets }, openId);
  const side = useRoving<HTMLElement>();
  const place = layouts.findIndex((l) => l.id === layout?.id);
  const tile = ({ id, name, number }: Layout) => (
    <li key={id}>
      <PictureTile id={id} name={name} number={number} chosen={id === layout?.id} onPress={() => openLayoutById(id)} />
    </li>
  );
  const list = (
    <div className="flex flex-col gap-2 p-2">
      <div className="flex flex-wrap gap-1">
        <AddLayout onAdded={openLayoutById} />
        {layout && (
          <>
            <Button
              className="ml-auto px-1.5!"
              title="Put this layout into Next"
              keyFor="layouts.toNext"
              onClick={() => send('picture.setNext', { picture: layout.id })}
            >
              Next
            </Button>
            <span aria-hidden className="basis-full max-beside:hidden" />
            <IconButton label="Duplicate this layout" onClick={() => send('layout.duplicate', { layout: layout.id })}>
              <CopyPlus size={15} />
            </IconButton>
            <IconButton
              label="This layout further up"
              title="Further up in the list"
              onClick={() => send('layout.move', { layout: layout.id, index: Math.max(0, place - 1) })}
            >
              <ArrowUp size={15} />
            </IconButton>
            <IconButton
              label="This layout further down"
              title="Further down in the list"
              onClick={() => send('layout.move', { layout: layout.id, index: place + 1 })}
            >
              <ArrowDown size={15} />
            </IconButton>
            <IconButton label="Remove this layout" onClick={() => send('layout.remove', { layout: layout.id })}>
              <Trash2 size={15} />
            </IconButton>
          </>
        )}
      </div>
      <ul className="grid gap-2 max-beside:grid-cols-3">{layouts.map(tile)}</ul>
      {presets.length > 0 && <h3 className="text-xs font-semibold text-muted">Presets</h3>}
      <ul className="grid gap-2 max-beside:grid-cols-3">{presets.map(tile)}</ul>
      <h2 className="text-xs font-semibold text-muted">Walk-through</h2>
      <WalkThrough />
    </div>
  );
  return (
    <main className={`${COLUMNS} h-(--room) grid-cols-[224px_minmax(0,1fr)_316px] max-wide:grid-cols-[176px_minmax(0,1fr)_264px]`}>
      <h1 className="sr-only">Layouts</h1>
      <nav ref={side} className="flex min-h-0 flex-col border-r border-line" {...region('layouts', 'Layouts and framings')}>
        <Tabs
          label="What to build"
          value={mode}
          onChange={(value) => setLayoutsRoom({ mode: value as typeof mode })}
          tabs={[
            { value: 'layouts', label: 'Layouts', content: list },
            {
              value: 'framings',
              label: 'Framings',
              content: <FramingsList openId={framingId} onOpen={(id) => setLayoutsRoom({ framingId: id })} />,
            },
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
