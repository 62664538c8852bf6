import { Film, Volume2, VolumeX } from 'lucide-react';
import { FADER_FLOOR_DB, FADER_TOP_DB, hasSound, type Source } from '#core/show/source';
import { useHost, useHostState, useSend } from '../host/host-context';
import { Button } from '../parts/button';
import { Meter } from '../parts/meter';
import { NumberField } from '../parts/number-field';

function Fader({ label, db, onChange }: { label: string; db: number; onChange: (db: number) => void }) {
  return (
    <input
      type="range"
      aria-label={label}
      aria-valuetext={db <= FADER_FLOOR_DB ? 'silent' : `${db} dB`}
      className="w-full"
      min={FADER_FLOOR_DB}
      max={FADER_TOP_DB}
      step={0.5}
      value={db}
      onChange={(e) => onChange(Number(e.target.value))}
      onDoubleClick={() => onChange(0)}
      title="Double press: 0 dB"
    />
  );
}

function Channel({ source }: { source: Source }) {
  const send = useSend();
  const { faderDb, muted, follows } = source.sound;
  return (
    <li className="flex w-40 shrink-0 flex-col gap-0.5 border-r border-line px-2 py-1">
      <span className={`truncate text-[13px] ${muted ? 'text-muted line-through' : ''}`}>{source.name}</span>
      <Meter id={source.id} label={`Level of ${source.name}`} />
      <Fader label={`Fader of ${source.name}, dB`} db={faderDb} onChange={(db) => send('sound.setFader', { source: source.id, db })} />
      <div className="flex items-center gap-1">
        <Button className="min-h-7! px-1!" pressed={muted} aria-label={`Mute ${source.name}`} title={muted ? 'Muted' : 'Mute'} onClick={() => send('sound.mute', { source: source.id })}>
          {muted ? <VolumeX size={14} /> : <Volume2 size={14} />}
        </Button>
        <Button className="min-h-7! px-1!" pressed={follows} aria-label={`Sound of ${source.name} follows its picture`} title={follows ? 'Follows the picture' : 'Stays open'} onClick={() => send('sound.follow', { source: source.id })}>
          <Film size={14} />
        </Button>
        <NumberField className="ml-auto w-15" label={`Level of ${source.name}, dB`} min={FADER_FLOOR_DB} max={FADER_TOP_DB} whole={0} digits={1} value={faderDb} onCommit={(db) => send('sound.setFader', { source: source.id, db })} />
      </div>
    </li>
  );
}

/** The sound of every source, and the programme bus. */
export function SoundRow() {
  const host = useHost();
  const send = useSend();
  const { sources, programme, awake } = useHostState(({ desk: { show }, soundAwake }) => ({ sources: show.sources, programme: show.programme, awake: soundAwake }));
  const channels = sources.filter(hasSound);
  return (
    <section aria-label="Sound" className="sound flex min-w-0 bg-panel">
      <div className="flex w-56 shrink-0 flex-col gap-0.5 border-r-2 border-line px-2 py-1">
        <div className="flex items-center justify-between">
          <h2 className="font-semibold">Programme</h2>
          {!awake && (
            <Button look="straw" className="min-h-6! py-0!" onClick={() => void host.sound.wake()}>
              Start sound
            </Button>
          )}
        </div>
        <Meter id="programme" label="Level of the programme" />
        <Fader label="Programme fader, dB" db={programme.faderDb} onChange={(faderDb) => send('sound.setProgramme', { faderDb })} />
        <div className="flex items-center gap-1">
          <label className="flex flex-1 items-center gap-1 text-xs text-muted" title="What you hear here; the programme is not changed">
            Ears
            <input type="range" aria-label="Listening level here" className="w-full" min={0} max={1} step={0.01} defaultValue={0.8} onChange={(e) => host.sound.setListening(Number(e.target.value))} />
          </label>
          <NumberField className="w-15" label="Programme level, dB" min={FADER_FLOOR_DB} max={FADER_TOP_DB} whole={0} digits={1} value={programme.faderDb} onCommit={(faderDb) => send('sound.setProgramme', { faderDb })} />
        </div>
      </div>
      <ul className="flex min-w-0 flex-1 overflow-x-auto">
        {channels.map((source) => (
          <Channel key={source.id} source={source} />
        ))}
        {channels.length === 0 && <li className="p-3 text-muted">Sources with sound get a channel here.</li>}
      </ul>
    </section>
  );
}
