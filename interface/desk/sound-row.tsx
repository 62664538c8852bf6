/** The sound of what matters now, in one row under the pictures. */
import { Film, TriangleAlert, Volume2, VolumeX } from 'lucide-react';
import { memo } from 'react';
import { Link } from 'react-router';
import { type Channel as SoundChannel, channelsOf } from '#core/sound/channels';
import { FADER_FLOOR_DB, FADER_TOP_DB } from '#core/sound/level';
import { routingReport } from '#core/sound/routing/findings';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { Fader } from '../parts/fader';
import { Meter } from '../parts/meter';
import { LevelSlider } from '../parts/level-slider';
import { NumberField } from '../parts/number-field';
import { useRoving } from '../parts/roving';

const Channel = memo(function Channel({ channel }: { channel: SoundChannel }) {
  const send = useSend();
  const { id, name } = channel;
  const { faderDb, muted, follows } = channel.sound;
  return (
    <li className="flex w-32 shrink-0 flex-col gap-0.5 border-r border-line px-1.5 py-1">
      <span className={`truncate text-[13px] ${muted ? 'text-muted line-through' : ''}`}>{name}</span>
      <Meter id={id} label={`Level of ${name}`} />
      <Fader label={`Fader of ${name}, dB`} db={faderDb} onChange={(db) => send('sound.setFader', { channel: id, db })} />
      <div className="flex items-center gap-1">
        <Button
          className="min-h-7! px-1!"
          pressed={muted}
          aria-label={`Mute ${name}`}
          title={muted ? 'Muted' : 'Mute'}
          onClick={() => send('sound.mute', { channel: id })}
        >
          {muted ? <VolumeX size={14} /> : <Volume2 size={14} />}
        </Button>
        <Button
          className="min-h-7! px-1!"
          pressed={follows}
          aria-label={`Sound of ${name} follows its picture`}
          title={follows ? 'Follows the picture' : 'Stays open'}
          onClick={() => send('sound.follow', { channel: id })}
        >
          <Film size={14} />
        </Button>
        <NumberField
          className="min-w-0 flex-1 px-1!"
          label={`Level of ${name}, dB`}
          min={FADER_FLOOR_DB}
          max={FADER_TOP_DB}
          whole={0}
          digits={1}
          value={faderDb}
          onCommit={(db) => send('sound.setFader', { channel: id, db })}
        />
      </div>
    </li>
  );
});

/** What is wrong with the routing, in one word; leads to the room Sound. */
function RoutingSign() {
  const troubles = useShow(({ desk: { show } }) => routingReport(show).findings.filter((f) => f.tone === 'trouble').length);
  const held = useShow(({ desk: { air } }) => Object.keys(air.sound.held).length);
  if (troubles + held === 0) return null;
  return (
    <Link to="../sound" className="flex items-center gap-1 text-[13px] text-caution" title="Open Sound">
      <TriangleAlert size={14} /> {held > 0 ? 'howl held' : `${troubles} in routing`}
    </Link>
  );
}

/** The sound of every channel, and the programme bus. */
export function SoundRow() {
  const host = useShowClient();
  const send = useSend();
  const { sources, inputs, faderDb, awake } = useShow(({ desk: { show }, soundAwake }) => ({
    sources: show.sources,
    inputs: show.sound.inputs,
    faderDb: show.sound.buses[0]?.faderDb ?? 0,
    awake: soundAwake,
  }));
  const box = useRoving<HTMLElement>();
  const channels = channelsOf(host.state.desk.show);
  const setProgramme = (db: number) => send('sound.setBus', { bus: 'programme', faderDb: db });
  return (
    <section
      ref={box}
      {...region('sound', 'Sound')}
      className="desk-part sound flex min-w-0 bg-panel"
      data-channels={sources.length + inputs.length}
    >
      <div className="flex w-56 shrink-0 flex-col gap-0.5 border-r-2 border-line px-2 py-1">
        <div className="flex items-center justify-between">
          <h2 className="font-semibold">Programme</h2>
          <RoutingSign />
          {!awake && !host.panel && (
            <Button look="straw" className="min-h-6! py-0!" onClick={() => void host.sound.wake()}>
              Start sound
            </Button>
          )}
        </div>
        <Meter id="programme" label="Level of the programme" />
        <Fader label="Programme fader, dB" db={faderDb} onChange={setProgramme} />
        <div className="flex items-center gap-1">
          <label
            className={host.panel ? 'hidden' : 'flex flex-1 items-center gap-1 text-xs text-muted'}
            title="What you hear here; the programme is not changed"
          >
            Ears
            <LevelSlider label="Listening level here" className="w-full" first={0.8} onChange={(level) => host.sound.setListening(level)} />
          </label>
          <NumberField
            className="w-15"
            label="Programme level, dB"
            min={FADER_FLOOR_DB}
            max={FADER_TOP_DB}
            whole={0}
            digits={1}
            value={faderDb}
            onCommit={setProgramme}
          />
        </div>
      </div>
      <ul className="flex min-w-0 flex-1 overflow-x-auto">
        {channels.map((channel) => (
          <Channel key={channel.id} channel={channel} />
        ))}
        {channels.length === 0 && <li className="p-3 text-muted">Sources with sound get a channel here.</li>}
      </ul>
    </section>
  );
}
