/** Everything about the chosen channel or bus. */
import { useEffect } from 'react';
import { useStore } from 'zustand';
import { channelsOf } from '#core/sound/channels';
import { useShow, useShowClient } from '../client/show-client';
import { BusSettings } from './bus-settings';
import { ChannelSettings } from './channel-settings';
import { useSoundRoom } from './room-state';
import { dbWords } from './words';

/** How loud the channel is before its fader, as people hear it. */
function LoudnessLine({ id }: { id: string }) {
  const host = useShowClient();
  const reading = useStore(host.sound.store, (s) => s.loudness[id]);
  useEffect(() => {
    host.sound.watch(id);
    return () => host.sound.watch(null);
  }, [host, id]);
  const figure = (value: number | undefined) => (value !== undefined && value > -70 ? dbWords(value) : '−');
  return (
    <p className="figures mb-2 text-[13px] text-muted" title="Before the fader: ITU-R BS.1770, over 0.4 s and over 3 s">
      momentary <span className="inline-block w-12 text-right text-text">{figure(reading?.momentary)}</span> short-term{' '}
      <span className="inline-block w-12 text-right text-text">{figure(reading?.shortTerm)}</span> LUFS
    </p>
  );
}

/** Every setting of the chosen channel or bus. */
export function ChannelPanel() {
  const host = useShowClient();
  const chosen = useSoundRoom((s) => s.chosen);
  useShow(({ desk: { show } }) => ({ sound: show.sound, sources: show.sources }));
  const { show } = host.state.desk;
  const channel = channelsOf(show).find((c) => c.id === chosen);
  const bus = show.sound.buses.find((b) => b.id === chosen);
  if (!channel && !bus)
    return <p className="p-4 text-muted">Choose a strip: its gain, equaliser, gate, compressor and delay are set here.</p>;
  return (
    <div className="p-2">
      <h2 className="mb-1 border-l-4 pl-2 text-lg font-semibold" style={{ borderLeftColor: (channel ?? bus)?.colour }}>
        {(channel ?? bus)?.name}
      </h2>
      {channel && <LoudnessLine id={channel.id} />}
      {channel ? <ChannelSettings channel={channel} /> : bus && <BusSettings bus={bus} />}
    </div>
  );
}
