/** The room Replay. */
import { Circle } from 'lucide-react';
import { useShow, useSend } from '../client/show-client';
import { JogPanel } from '../control/jog-panel';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { HoldButton } from '../parts/hold-button';
import { Tabs } from '../parts/tabs';
import { AnglesPanel, BudgetLine } from './angles-panel';
import { ClipEditor } from './clip-editor';
import { ClipList } from './clip-list';
import { DeckPanel } from './deck-panel';
import { ClipSearch, ClipTools, ReelBar } from './reel-bar';
import { ExportPanel } from './export-panel';
import { setRoom, useRoom } from './room-state';
import { Timeline } from './timeline';
import { Totals } from './totals';
import { COLUMNS } from '../parts/columns';

/** Starts and stops the recording of the angles; says what is wrong with any of them. */
function RecordAngles() {
  const send = useSend();
  const { on, angles, troubles } = useShow(({ desk: { show, air }, replay }) => ({
    on: air.replay.recording !== null,
    angles: show.replay.angles.length,
    troubles: (replay?.tracks ?? [])
      .filter((t) => t.state === 'failed')
      .map((t) => t.name)
      .join(', '),
  }));
  if (!on) {
    return (
      <Button
        look="straw"
        unusable={angles === 0 ? 'Choose the angles first, under Angles.' : null}
        title="Record the angles"
        keyFor="replay.record"
        onClick={() => send('replay.start')}
      >
        <Circle size={13} /> Record {angles} angles
      </Button>
    );
  }
  return (
    <HoldButton
      look={troubles ? 'air' : 'plain'}
      className={troubles ? '' : 'border-text!'}
      title="Hold to stop recording the angles"
      keyFor="replay.record"
      onHeld={() => send('replay.stop')}
    >
      <Circle size={13} fill="currentColor" /> {troubles ? `Trouble: ${troubles}` : `Recording ${angles} angles`}
    </HoldButton>
  );
}

function Clips() {
  return (
    <div className="flex h-full min-h-0 flex-col">
      <ReelBar />
      <ClipSearch />
      <ClipList />
      <ClipTools />
      <ClipEditor />
    </div>
  );
}

/** The room of the replay operator: decks, timeline, reels. Everything in it has a key. */
export function ReplayRoom() {
  const tab = useRoom((s) => s.tab);
  const jog = useRoom((s) => s.jogPanel);
  return (
    <main className={`${COLUMNS} h-(--room) grid-cols-[minmax(0,1fr)_430px] max-wide:grid-cols-[minmax(0,1fr)_330px]`}>
      <h1 className="sr-only">Replay</h1>
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="grid shrink-0 grid-cols-2 gap-1">
          <DeckPanel deck={1} />
          <DeckPanel deck={2} />
        </div>
        <Timeline />
        {jog && (
          <div className="fixed bottom-9 left-2 z-30 border border-line bg-panel p-3 shadow-2xl">
            <JogPanel />
          </div>
        )}
      </div>
      <aside className="flex min-h-0 flex-col border-l border-line max-beside:h-[720px]" {...region('clips', 'Clips and settings')}>
        <div className="flex items-center gap-2 border-b border-line px-1.5 py-1">
          <RecordAngles />
          <div className="min-w-0 flex-1">
            <BudgetLine />
          </div>
        </div>
        <Totals />
        <Tabs
          label="Clips and settings"
          value={tab}
          onChange={(value) => setRoom({ tab: value as typeof tab })}
          tabs={[
            { value: 'clips', label: 'Clips', content: <Clips /> },
            { value: 'angles', label: 'Angles and settings', content: <AnglesPanel /> },
            { value: 'export', label: 'Export', content: <ExportPanel /> },
          ]}
        />
      </aside>
    </main>
  );
}
