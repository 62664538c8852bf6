/** The room Sound. */
import { TriangleAlert } from 'lucide-react';
import { useStore } from 'zustand';
import { routingReport } from '#core/sound/routing/findings';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { LevelSlider } from '../parts/level-slider';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { Tabs } from '../parts/tabs';
import { ChannelPanel } from './channel-panel';
import { ListenersPanel } from './listeners-panel';
import { LoudnessPanel } from './loudness-panel';
import { MatrixView } from './matrix-view';
import { PatchPanel } from './patch-panel';
import { setSoundRoom, type SoundTab, useSoundRoom } from './room-state';
import { RoutingPanel } from './routing-panel';
import { StripsView } from './strips-view';
import { COLUMNS } from '../parts/columns';

/** How many troubles the routing has now. */
function RoutingLabel() {
  const { count, held } = useShow(({ desk: { show, air } }) => ({
    count: routingReport(show).findings.filter((f) => f.tone === 'trouble').length,
    held: Object.keys(air.sound.held).length,
  }));
  if (count + held === 0) return 'Routing';
  return (
    <span className="flex items-center gap-1 text-caution">
      <TriangleAlert size={14} /> Routing {count}
    </span>
  );
}

/** What the operator hears, and everything that is unusual now. */
function EarsLine() {
  const host = useShowClient();
  const send = useSend();
  const { awake, solos, ears, lost, talking } = useShow(({ desk: { show, air }, soundAwake }) => {
    const name = (id: string) => [...show.sources, ...show.sound.inputs, ...show.sound.buses].find((x) => x.id === id)?.name ?? '';
    return {
      awake: soundAwake,
      solos: air.sound.solos.map((s) => name(s.id)).join(', '),
      ears: name(air.sound.earsId),
      lost: Object.values(air.sound.lostDevices).length,
      talking: show.sound.listeners
        .filter((l) => air.sound.talkback?.listenerIds.includes(l.id))
        .map((l) => l.name)
        .join(', '),
    };
  });
  const late = useStore(host.sound.store, (s) => s.lateMs);
  return (
    <div className="flex min-w-0 flex-1 items-center gap-3 text-[13px]">
      {!awake && !host.panel && (
        <Button look="straw" onClick={() => void host.sound.wake()}>
          Start sound
        </Button>
      )}
      <label className="flex items-center gap-2 text-muted" title="How loud you hear it here; no mix is changed">
        Ears
        <LevelSlider label="Listening level here" className="w-24" first={0.8} onChange={(level) => host.sound.setListening(level)} />
      </label>
      {solos ? (
        <Button look="straw" className="max-w-72" title="Clear all solos (Escape)" onClick={() => send('sound.clearSolo')}>
          <span className="truncate">You hear {solos} alone ×</span>
        </Button>
      ) : (
        <span className="truncate text-muted">You hear {ears}</span>
      )}
      {talking && <span className="border border-straw px-2 font-semibold text-straw">TALKING to {talking}</span>}
      {lost > 0 && (
        <Button look="air" onClick={() => setSoundRoom({ tab: 'patch' })}>
          {lost === 1 ? 'A sound device is missing' : `${lost} sound devices are missing`}
        </Button>
      )}
      {late > 0 && (
        <span className="ml-auto text-caution" title="Sound that came too late since the show was opened and was heard as silence">
          {late} ms late
        </span>
      )}
    </div>
  );
}

/** The room of the sound engineer, and of whoever has to be one today. */
export function SoundRoom() {
  const { view, tab } = useSoundRoom();
  const bar = useRoving<HTMLDivElement>();
  return (
    <main className={`${COLUMNS} h-(--room) grid-cols-[minmax(0,1fr)_344px] max-wide:grid-cols-[minmax(0,1fr)_296px]`}>
      <h1 className="sr-only">Sound</h1>
      <div className="flex min-h-0 min-w-0 flex-col max-beside:h-[640px]" role="region" {...region('desk', 'Strips or matrix')}>
        <div ref={bar} className="flex shrink-0 items-center gap-1 border-b border-line px-2 py-1">
          <Button pressed={view === 'strips'} onClick={() => setSoundRoom({ view: 'strips' })}>
            Strips
          </Button>
          <Button
            className="mr-3"
            pressed={view === 'matrix'}
            title="Who is sent where"
            keyFor="sound.matrix"
            onClick={() => setSoundRoom({ view: 'matrix' })}
          >
            Matrix
          </Button>
          <EarsLine />
        </div>
        {view === 'strips' ? <StripsView /> : <MatrixView />}
      </div>
      <aside
        className="flex min-h-0 flex-col border-l border-line max-beside:h-[760px]"
        {...region('settings', 'Settings of the sound desk')}
      >
        <Tabs
          label="Settings of the sound desk"
          value={tab}
          onChange={(value) => setSoundRoom({ tab: value as SoundTab })}
          tabs={[
            { value: 'channel', label: 'Channel', content: <ChannelPanel /> },
            { value: 'listeners', label: 'Listeners', content: <ListenersPanel /> },
            { value: 'patch', label: 'Patch', content: <PatchPanel /> },
            { value: 'routing', label: <RoutingLabel />, content: <RoutingPanel /> },
            { value: 'loudness', label: 'Loudness', content: <LoudnessPanel /> },
          ]}
        />
      </aside>
    </main>
  );
}
