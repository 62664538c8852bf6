/** A channel strip. */
import clsx from 'clsx';
import { Ear, Volume2, VolumeX } from 'lucide-react';
import { memo, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { FADER_FLOOR_DB, FADER_TOP_DB } from '#core/sound/level';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Fader } from '../parts/fader';
import { HeldBy } from '../parts/held-by';
import { NumberField } from '../parts/number-field';
import { MeterColumn } from './meter-column';
import { setSoundRoom, useSoundRoom } from './room-state';

/** Pixels of a strip with its gap. */
export const STRIP_WIDTH = 70;

interface StripFrameProps {
  id: string;
  name: string;
  colour: string;
  /** Key of the bank that chooses it. */
  place?: number;
  muted: boolean;
  faderDb: number;
  onFader: (db: number) => void;
  head?: ReactNode;
  children: ReactNode;
}

/** Solo: for the operator's ears only. With Shift before the fader. */
function Solo({ id, name }: { id: string; name: string }) {
  const send = useSend();
  const tap = useShow(({ desk: { air } }) => air.sound.solos.find((s) => s.id === id)?.tap);
  return (
    <Button
      className={clsx('min-h-8! flex-1 px-0! pointer-coarse:min-h-11!', tap && 'bg-straw/20')}
      pressed={tap !== undefined}
      aria-label={`Solo ${name}`}
      title={tap ? `You hear it alone, ${tap} its fader` : 'Hear it alone; with Shift before its fader. No mix is changed.'}
      onClick={(e) => send('sound.solo', { channel: id, tap: e.shiftKey ? 'before' : 'after' })}
    >
      <Ear size={15} />
      {tap === 'before' && <span className="text-[13px]">pre</span>}
    </Button>
  );
}

/** How far gate, compressor or limiter turn it down now. */
function Reduction({ id }: { id: string }) {
  const host = useShowClient();
  const db = useStore(host.sound.store, (s) => s.reduction[id] ?? 0);
  return (
    <div
      className="h-full w-1 bg-deep"
      role="img"
      aria-label={`Turned down by ${Math.round(-db)} dB`}
      title="How far gate, compressor or limiter turn it down"
    >
      <div className="w-full bg-caution" style={{ height: `${Math.min(100, -db * 5)}%` }} />
    </div>
  );
}

/** One strip: name, what it does, meter and fader. */
export function StripFrame({ id, name, colour, place, muted, faderDb, onFader, head, children }: StripFrameProps) {
  const chosen = useSoundRoom((s) => s.chosen === id);
  return (
    <section
      role="group"
      aria-label={name}
      data-strip={id}
      style={{ width: STRIP_WIDTH - 4 }}
      className={clsx(
        'flex shrink-0 flex-col gap-1 px-0.5 pb-1.5',
        chosen ? 'bg-raised outline-2 -outline-offset-2 outline-straw' : 'bg-panel',
      )}
      onPointerDown={() => setSoundRoom({ chosen: id })}
    >
      <div
        className="figures -mx-0.5 flex h-4 justify-between px-1 text-[13px] leading-4 font-semibold text-deep"
        style={{ background: colour }}
      >
        <span aria-hidden>{place !== undefined && place <= 9 ? place : ''}</span>
        <HeldBy id={id} />
      </div>
      <button
        type="button"
        className={clsx(
          'flex min-h-9 items-start gap-1 text-left text-[13px] leading-tight tracking-tighter',
          muted ? 'text-muted line-through' : '',
        )}
        title={`${name}: its settings`}
        onClick={() => setSoundRoom({ chosen: id, tab: 'channel' })}
      >
        <span lang="en" className="line-clamp-2 min-w-0 flex-1 hyphens-auto break-words">
          {name}
        </span>
      </button>
      {head}
      <div className="flex min-h-24 flex-1 gap-0.5">
        <Fader upright label={`Fader of ${name}, dB`} db={faderDb} onChange={onFader} className="flex-1" />
        <Reduction id={id} />
        <MeterColumn id={id} label={name} />
      </div>
      <NumberField
        label={`Level of ${name}, dB`}
        min={FADER_FLOOR_DB}
        max={FADER_TOP_DB}
        whole={0}
        digits={1}
        value={faderDb}
        onCommit={onFader}
      />
      <div className="grid grid-cols-2 gap-0.5 pointer-coarse:grid-cols-1">{children}</div>
    </section>
  );
}

export function MuteButton({ name, muted, onPress }: { name: string; muted: boolean; onPress: () => void }) {
  return (
    <Button
      className={clsx('min-h-8! flex-1 px-0! pointer-coarse:min-h-11!', muted && 'border-air! text-air!')}
      pressed={muted}
      aria-label={`Mute ${name}`}
      title={muted ? 'Muted: nobody hears it' : 'Mute'}
      onClick={onPress}
    >
      {muted ? <VolumeX size={15} /> : <Volume2 size={15} />}
    </Button>
  );
}

/** What a strip has in words above its fader: as high in every strip, so that all faders stand at one height. */
const HEAD = 'h-12 text-[13px] leading-4 text-muted';

/** Height of a pan, or of the room for one. */
const PAN_ROOM = 'h-5 shrink-0';

/** What is switched on in a channel, in words short enough for a strip, and its group. */
function Marks({ id }: { id: string }) {
  const { words, group } = useShow(({ desk: { show } }) => {
    const s = show.sources.find((x) => x.id === id)?.sound ?? show.sound.inputs.find((x) => x.id === id)?.sound;
    if (!s) return { words: '', group: '' };
    const on = [
      s.highPass.on && 'hp',
      s.gate.on && 'gate',
      s.eq.on && 'eq',
      s.compressor.on && 'comp',
      s.delayMs > 0 && `${Math.round(s.delayMs)} ms`,
    ];
    return { words: on.filter(Boolean).join(' '), group: show.sound.groups.find((g) => g.id === s.groupId)?.name ?? '' };
  });
  return (
    <p className={HEAD} lang="en" title={[words, group && `in the group ${group}`].filter(Boolean).join(' · ')}>
      <span className="line-clamp-1 tracking-tighter break-all">{words}</span>
      <span className="line-clamp-2 hyphens-auto break-words">{group}</span>
    </p>
  );
}

export const ChannelStrip = memo(function ChannelStrip({
  id,
  name,
  colour,
  place,
  faderDb,
  muted,
  follows,
  pan,
}: {
  id: string;
  name: string;
  colour: string;
  place: number;
  faderDb: number;
  muted: boolean;
  follows: boolean;
  pan: number;
}) {
  const send = useSend();
  return (
    <StripFrame
      id={id}
      name={name}
      colour={colour}
      place={place}
      muted={muted}
      faderDb={faderDb}
      onFader={(db) => send('sound.setFader', { channel: id, db })}
      head={
        <>
          <Marks id={id} />
          <input
            type="range"
            className={PAN_ROOM}
            aria-label={`Pan of ${name}`}
            title="Left and right; double press: middle"
            min={-1}
            max={1}
            step={0.05}
            value={pan}
            onChange={(e) => send('sound.setChannel', { channels: [id], pan: Number(e.target.value) })}
            onDoubleClick={() => send('sound.setChannel', { channels: [id], pan: 0 })}
          />
        </>
      }
    >
      <MuteButton name={name} muted={muted} onPress={() => send('sound.mute', { channel: id })} />
      <Solo id={id} name={name} />
      <Button
        className="col-span-2 min-h-8! px-0! text-[13px]! pointer-coarse:col-span-1 pointer-coarse:min-h-11!"
        pressed={follows}
        aria-label={`Sound of ${name} follows its picture`}
        title={follows ? 'Follows its picture: heard only while it is on air' : 'Stays open'}
        onClick={() => send('sound.follow', { channel: id })}
      >
        {follows ? 'follows' : 'open'}
      </Button>
    </StripFrame>
  );
});

export const BusStrip = memo(function BusStrip({
  id,
  name,
  colour,
  faderDb,
  muted,
  heard,
}: {
  id: string;
  name: string;
  colour: string;
  faderDb: number;
  muted: boolean;
  heard: string;
}) {
  const send = useSend();
  const ears = useShow(({ desk: { air } }) => air.sound.earsId === id && air.sound.solos.length === 0);
  const held = useShow(({ desk: { air } }) => air.sound.held[id]?.db ?? 0);
  return (
    <StripFrame
      id={id}
      name={name}
      colour={colour}
      muted={muted}
      faderDb={faderDb}
      onFader={(db) => send('sound.setBus', { bus: id, faderDb: db })}
      head={
        <>
          <p lang="en" className={clsx(HEAD, 'line-clamp-3 hyphens-auto break-words')} title={`Heard by: ${heard || 'nobody'}`}>
            {heard ? `→ ${heard}` : 'nobody hears it'}
          </p>
          {held <= 0 && <div aria-hidden className={PAN_ROOM} />}
          {held > 0 && (
            <Button
              look="air"
              className="min-h-7! px-0! text-[13px]!"
              title="It howled and was turned down. Break the loop first, then release it."
              onClick={() => send('sound.release', { bus: id })}
            >
              −{held} dB
            </Button>
          )}
        </>
      }
    >
      <MuteButton name={name} muted={muted} onPress={() => send('sound.setBus', { bus: id, muted: !muted })} />
      <Solo id={id} name={name} />
      <Button
        className="col-span-2 min-h-8! px-0! text-[13px]! pointer-coarse:col-span-1 pointer-coarse:min-h-11!"
        pressed={ears}
        aria-label={`Listen to ${name}`}
        title="What you hear while nothing is soloed"
        onClick={() => send('sound.listenTo', { bus: id })}
      >
        hear
      </Button>
    </StripFrame>
  );
});
