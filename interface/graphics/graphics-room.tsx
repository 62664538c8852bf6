/** The room Graphics: Fill, where entries are put on air, and Draw, where graphics are made. */
import { useEffect } from 'react';
import { tellPictureFonts } from '#engine/graphics/pictures';
import { useShow } from '../client/show-client';
import { useKeyName } from '../client/hands';
import { ClocksPanel } from './clocks-panel';
import { AnimationDialog } from './animation-dialog';
import { DrawTab } from './draw-tab';
import { EntryForm } from './entry-form';
import { EntryTable } from './entry-table';
import { FillSide } from './fill-side';
import { GraphicsList } from './graphics-list';
import { chosenEntry, type GraphicsTab, openGraphic, setGraphicsRoom, useGraphicsRoom } from './room-state';
import { SheetsPanel } from './sheets-panel';
import { TableauxPanel } from './tableaux-panel';
import { TickerBar } from './ticker-bar';

function Choices<T extends string>({
  label,
  value,
  all,
  keyFor = '',
  onChange,
}: {
  label: string;
  value: T;
  all: readonly [T, string][];
  /** Key that goes from one to the next. */
  keyFor?: string;
  onChange: (value: T) => void;
}) {
  const key = useKeyName(keyFor);
  return (
    <div role="tablist" aria-label={label} className="flex" title={key ? `${key} goes from one to the next` : undefined}>
      {all.map(([id, name]) => (
        <button
          key={id}
          type="button"
          role="tab"
          aria-selected={value === id}
          className={`min-h-8 border-b-2 px-3 text-sm ${value === id ? 'border-straw text-text' : 'border-transparent text-muted hover:text-text'}`}
          onClick={() => onChange(id)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

function Fill() {
  const { graphicId, entryId, panel } = useGraphicsRoom();
  const graphic = useShow(({ desk: { show } }) => openGraphic(show, graphicId));
  const entry = chosenEntry(graphic, entryId);
  return (
    <>
      <div className="flex min-h-0 min-w-0 flex-1 flex-col max-beside:min-h-120 max-beside:flex-none">
        {panel === 'clocks' ? (
          <ClocksPanel />
        ) : panel === 'sheets' ? (
          <SheetsPanel />
        ) : panel === 'tableaux' ? (
          <TableauxPanel />
        ) : graphic ? (
          <>
            <TickerBar graphic={graphic} />
            <EntryTable graphic={graphic} />
            <EntryForm graphic={graphic} entry={entry} />
          </>
        ) : (
          <p className="p-3 text-muted">No graphic is open. Take one from the gallery at the left.</p>
        )}
      </div>
      <FillSide graphic={graphic} pictureId={entry?.id ?? graphic?.id ?? null} />
    </>
  );
}

export function GraphicsRoom() {
  const fonts = useShow(({ desk }) => desk.show.graphics.fonts);
  useEffect(() => tellPictureFonts(fonts), [fonts]);
  const { tab, panel } = useGraphicsRoom();
  return (
    <main tabIndex={-1} className="flex h-(--room) min-h-0 flex-col">
      <h1 className="sr-only">Graphics</h1>
      <div className="flex shrink-0 items-center gap-4 border-b border-line px-2">
        <Choices<GraphicsTab>
          label="Work"
          value={tab}
          all={[
            ['fill', 'Fill'],
            ['draw', 'Draw'],
          ]}
          keyFor="graphics.tab"
          onChange={(next) => setGraphicsRoom({ tab: next, trial: null, playing: false })}
        />
        {tab === 'fill' && <span aria-hidden className="h-5 border-l border-line" />}
        {tab === 'fill' && (
          <Choices
            label="What is filled"
            value={panel}
            all={[
              ['entries', 'Entries'],
              ['sheets', 'Sheets'],
              ['clocks', 'Clocks'],
              ['tableaux', 'Tableaux'],
            ]}
            onChange={(next) => setGraphicsRoom({ panel: next })}
          />
        )}
      </div>
      <div className="flex min-h-0 flex-1 max-beside:flex-col max-beside:overflow-y-auto">
        {tab === 'fill' ? (
          <>
            <GraphicsList />
            <Fill />
          </>
        ) : (
          <DrawTab />
        )}
      </div>
      <AnimationDialog />
    </main>
  );
}
