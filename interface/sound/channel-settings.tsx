/** Every setting of a channel. */
import { type Channel } from '#core/sound/channels';
import { type Feed } from '#core/sound/document';
import { PICKS } from '#core/sound/strip';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { NumberField } from '../parts/number-field';
import { DelayFields, Equaliser, Field, Stage } from './strip-stages';

const PICK_WORDS = { stereo: 'stereo', mono: 'mono: summed', left: 'left on both', right: 'right on both' };

function Presets({ id }: { id: string }) {
  const send = useSend();
  const presets = useShow(({ desk: { show } }) => show.sound.presets);
  return (
    <div className="flex items-center gap-1">
      <select
        aria-label="Preset for this channel"
        className="min-w-0 flex-1"
        value=""
        onChange={(e) => {
          const [act, stripPreset] = e.target.value.split(' ');
          if (act === 'apply') send('sound.applyPreset', { stripPreset, channels: [id] });
          else if (act === 'remove') send('sound.removePreset', { stripPreset });
        }}
      >
        <option value="">Apply a preset…</option>
        {presets.map((p) => (
          <option key={p.id} value={`apply ${p.id}`}>
            {p.name}
          </option>
        ))}
        {presets.length > 0 && (
          <optgroup label="Remove from this list">
            {presets.map((p) => (
              <option key={p.id} value={`remove ${p.id}`}>
                remove {p.name}
              </option>
            ))}
          </optgroup>
        )}
      </select>
      <form
        className="flex flex-1 gap-1"
        onSubmit={(e) => {
          e.preventDefault();
          const input = e.currentTarget.elements.namedItem('preset') as HTMLInputElement;
          if (input.value.trim() && send('sound.storePreset', { channel: id, name: input.value.trim() })) input.value = '';
        }}
      >
        <input name="preset" aria-label="Name of a new preset" placeholder="Store as…" className="w-full min-w-0" maxLength={60} />
      </form>
    </div>
  );
}

const feedWords = (feed: Feed, seat: string): string => {
  if (feed.kind === 'device')
    return `${feed.deviceLabel || 'Default device'}, input${feed.stereo ? `s ${feed.first}–${feed.first + 1}` : ` ${feed.first}`}`;
  return feed.kind === 'seat' ? `Whoever fills the seat ${seat}` : `Tone of ${feed.hz} Hz at ${feed.levelDb} dBFS`;
};

export function ChannelSettings({ channel }: { channel: Channel }) {
  const send = useSend();
  const { groups, seats } = useShow(({ desk: { show } }) => ({
    groups: show.sound.groups,
    seats: show.seats,
  }));
  const { id, feed } = channel;
  const s = channel.sound;
  const set = (change: Record<string, unknown>) => send('sound.setChannel', { channels: [id], ...change });
  const part = (type: string) => (change: Record<string, unknown>) => send(type, { channel: id, ...change });
  const [gate, compressor, highPass] = [part('sound.setGate'), part('sound.setCompressor'), part('sound.setHighPass')];
  const fade = (value: number | null, key: 'inFrames' | 'outFrames', label: string) => (
    <div className="flex items-center justify-between gap-1">
      <span className="text-[13px] text-muted">{label}</span>
      {value === null ? (
        <Button className="w-26" title="As long as the transition takes. Press for a time of its own." onClick={() => set({ [key]: 12 })}>
          transition
        </Button>
      ) : (
        <span className="flex w-26 items-center gap-1">
          <NumberField label={`${label}, frames`} unit="fr" min={0} max={500} value={value} onCommit={(frames) => set({ [key]: frames })} />
          <Button
            look="quiet"
            className="px-0.5!"
            aria-label={`${label} with the transition`}
            title="With the transition again"
            onClick={() => set({ [key]: null })}
          >
            ×
          </Button>
        </span>
      )}
    </div>
  );
  return (
    <>
      {feed && (
        <div className="mb-2 flex items-center gap-2">
          <input
            aria-label="Name of the channel"
            className="min-w-0 flex-1"
            defaultValue={channel.name}
            key={channel.name}
            onBlur={(e) =>
              e.target.value.trim() &&
              e.target.value !== channel.name &&
              send('sound.editChannel', { channel: id, name: e.target.value.trim() })
            }
          />
          <HoldButton look="quiet" title="Hold to remove this channel" onHeld={() => send('sound.removeChannel', { channel: id })}>
            Remove
          </HoldButton>
        </div>
      )}
      <p className="mb-2 text-[13px] text-muted">
        {feed
          ? feedWords(feed, feed.kind === 'seat' ? (seats.find((x) => x.id === feed.seatId)?.name ?? '') : '')
          : 'The sound of this source'}
      </p>
      <Presets id={id} />
      <Stage title="Entry">
        <Field label="Gain" unit="dB" min={-30} max={40} digits={1} value={s.gainDb} onCommit={(gainDb) => set({ gainDb })} />
        <select aria-label="Which sides" value={s.pick} onChange={(e) => set({ pick: e.target.value })}>
          {PICKS.map((p) => (
            <option key={p} value={p}>
              {PICK_WORDS[p]}
            </option>
          ))}
        </select>
        <DelayFields delayMs={s.delayMs} onCommit={(delayMs) => set({ delayMs })} />
        <Field label="Pan" unit="" min={-1} max={1} digits={2} value={s.pan} onCommit={(pan) => set({ pan })} />
        <select aria-label="Fader group" value={s.groupId ?? ''} onChange={(e) => set({ groupId: e.target.value || null })}>
          <option value="">no fader group</option>
          {groups.map((g) => (
            <option key={g.id} value={g.id}>
              group {g.name}
            </option>
          ))}
        </select>
      </Stage>
      <Stage title="High-pass" help="wind, steps" on={s.highPass.on} onPress={() => highPass({ on: !s.highPass.on })}>
        <Field label="Below" unit="Hz" min={20} max={400} value={s.highPass.hz} onCommit={(hz) => highPass({ hz })} />
      </Stage>
      <Equaliser id={id} eq={s.eq} highPass={s.highPass} />
      <Stage title="Gate" help="closes on noise" on={s.gate.on} onPress={() => gate({ on: !s.gate.on })}>
        <Field
          label="Opens above"
          unit="dB"
          min={-80}
          max={0}
          digits={1}
          value={s.gate.thresholdDb}
          onCommit={(thresholdDb) => gate({ thresholdDb })}
        />
        <Field label="Closed" unit="dB" min={-80} max={0} digits={1} value={s.gate.rangeDb} onCommit={(rangeDb) => gate({ rangeDb })} />
        <Field
          label="Opening"
          unit="ms"
          min={0.1}
          max={200}
          digits={1}
          value={s.gate.attackMs}
          onCommit={(attackMs) => gate({ attackMs })}
        />
        <Field label="Hold" unit="ms" min={0} max={2000} value={s.gate.holdMs} onCommit={(holdMs) => gate({ holdMs })} />
        <Field label="Closing" unit="ms" min={5} max={4000} value={s.gate.releaseMs} onCommit={(releaseMs) => gate({ releaseMs })} />
      </Stage>
      <Stage title="Compressor" help="evens out" on={s.compressor.on} onPress={() => compressor({ on: !s.compressor.on })}>
        <Field
          label="Works above"
          unit="dB"
          min={-60}
          max={0}
          digits={1}
          value={s.compressor.thresholdDb}
          onCommit={(thresholdDb) => compressor({ thresholdDb })}
        />
        <Field
          label="Ratio"
          unit=": 1"
          min={1}
          max={20}
          digits={1}
          value={s.compressor.ratio}
          onCommit={(ratio) => compressor({ ratio })}
        />
        <Field
          label="Attack"
          unit="ms"
          min={0.1}
          max={200}
          digits={1}
          value={s.compressor.attackMs}
          onCommit={(attackMs) => compressor({ attackMs })}
        />
        <Field
          label="Release"
          unit="ms"
          min={5}
          max={4000}
          value={s.compressor.releaseMs}
          onCommit={(releaseMs) => compressor({ releaseMs })}
        />
        <Field
          label="Knee"
          unit="dB"
          min={0}
          max={24}
          digits={1}
          value={s.compressor.kneeDb}
          onCommit={(kneeDb) => compressor({ kneeDb })}
        />
        <Field
          label="Make-up"
          unit="dB"
          min={0}
          max={24}
          digits={1}
          value={s.compressor.makeUpDb}
          onCommit={(makeUpDb) => compressor({ makeUpDb })}
        />
      </Stage>
      <Stage title="Follows picture" on={s.follows} onPress={() => send('sound.follow', { channel: id })}>
        {fade(s.inFrames, 'inFrames', 'Fade in')}
        {fade(s.outFrames, 'outFrames', 'Fade out')}
      </Stage>
      <label className="flex items-center gap-2 border-t border-line py-2">
        <input type="checkbox" checked={s.iso} onChange={(e) => set({ iso: e.target.checked })} /> Record it as a WAV of its own, as it
        comes in
      </label>
    </>
  );
}
