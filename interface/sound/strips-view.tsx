/** All channels, groups and buses as strips. */
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { channelsOf } from '#core/sound/channels';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Fader } from '../parts/fader';
import { HoldButton } from '../parts/hold-button';
import { useRoving } from '../parts/roving';
import { AddMenu } from './add-menu';
import { setSoundRoom, stripRoom, useSoundRoom } from './room-state';
import { BusStrip, ChannelStrip, MuteButton, STRIP_WIDTH } from './strip';

/** Names of those who hear a bus. */
function useHeard(): Record<string, string> {
  const { listeners } = useShow(({ desk: { show } }) => ({ listeners: show.sound.listeners }));
  const heard: Record<string, string> = {};
  for (const { busId, name } of listeners) heard[busId] = heard[busId] ? `${heard[busId]}, ${name}` : name;
  return heard;
}

/** A group's fader across: small, as there are few moves with it. */
function Groups() {
  const send = useSend();
  const groups = useShow(({ desk: { show } }) => show.sound.groups);
  if (groups.length === 0) return null;
  return (
    <div
      className="flex shrink-0 items-center gap-4 overflow-x-auto border-t border-line bg-panel px-2 py-1"
      aria-label="Fader groups"
      role="group"
    >
      {groups.map(({ id, name, faderDb, muted }) => (
        <div key={id} className="flex w-96 shrink-0 items-center gap-2">
          <span className={`w-32 shrink-0 truncate text-[13px] ${muted ? 'text-muted line-through' : ''}`}>{name}</span>
          <Fader
            label={`Fader of group ${name}, dB`}
            db={faderDb}
            onChange={(db) => send('sound.setGroup', { faderGroup: id, faderDb: db })}
          />
          <span className="figures w-16 shrink-0 text-right text-[13px]">{faderDb <= -60 ? 'off' : `${faderDb} dB`}</span>
          <div className="flex shrink-0 gap-1 *:w-9 *:flex-none">
            <MuteButton name={`group ${name}`} muted={muted} onPress={() => send('sound.setGroup', { faderGroup: id, muted: !muted })} />
            <HoldButton
              look="quiet"
              className="min-h-8! px-0!"
              title="Hold to remove this group; its channels stay"
              aria-label={`Remove group ${name}`}
              onHeld={() => send('sound.removeGroup', { faderGroup: id })}
            >
              ×
            </HoldButton>
          </div>
        </div>
      ))}
    </div>
  );
}

/** As many strips as fit; the others are a bank away. Buses stay at the right. */
export function StripsView() {
  const host = useShowClient();
  const box = useRef<HTMLDivElement>(null);
  const stop = useRoving<HTMLDivElement>();
  const { first, fits } = useSoundRoom();
  const { buses, count } = useShow(({ desk: { show } }) => ({
    buses: show.sound.buses,
    sources: show.sources,
    inputs: show.sound.inputs,
    count: channelsOf(show).length,
  }));
  const heard = useHeard();
  useEffect(() => {
    const element = box.current;
    if (!element) return undefined;
    const measure = () => setSoundRoom({ fits: Math.max(2, Math.floor((element.clientWidth - 8) / STRIP_WIDTH)) });
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, []);
  // Every bus where there is room; otherwise they scroll.
  const { buses: busFits, channels: room } = stripRoom(fits, buses.length);
  const start = Math.min(first, Math.max(0, count - room));
  const channels = channelsOf(host.state.desk.show);
  useEffect(() => {
    if (start !== first) setSoundRoom({ first: start });
  }, [start, first]);
  return (
    <div ref={stop} className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div ref={box} className="flex min-h-0 flex-1 gap-2 overflow-hidden p-1">
        <div
          className="flex min-w-0 gap-1"
          role="group"
          aria-label={`Channels ${start + 1} to ${Math.min(count, start + room)} of ${count}`}
        >
          {channels.slice(start, start + room).map(({ id, name, colour, sound }, i) => (
            <ChannelStrip
              key={id}
              id={id}
              name={name}
              colour={colour}
              place={i + 1}
              faderDb={sound.faderDb}
              muted={sound.muted}
              follows={sound.follows}
              pan={sound.pan}
            />
          ))}
          {count === 0 && (
            <p className="w-60 p-4 text-muted">
              Sources with sound get a channel here. Microphones and lines of a sound device are added under Patch.
            </p>
          )}
        </div>
        <div
          className="ml-auto flex gap-1 overflow-x-auto border-l-2 border-line pl-2"
          style={{ width: busFits * STRIP_WIDTH + 8 }}
          role="group"
          aria-label="Buses"
        >
          {buses.map(({ id, name, colour, faderDb, muted }) => (
            <BusStrip key={id} id={id} name={name} colour={colour} faderDb={faderDb} muted={muted} heard={heard[id] ?? ''} />
          ))}
        </div>
      </div>
      <Groups />
      <div className="flex shrink-0 items-center gap-2 border-t border-line bg-panel px-2 py-1 text-[13px]">
        <Button
          className="px-1!"
          aria-label="Bank before"
          title="Strips before these"
          keyFor="sound.bankBefore"
          unusable={start === 0 ? 'These are the first strips.' : null}
          onClick={() => setSoundRoom({ first: Math.max(0, start - room) })}
        >
          <ChevronLeft size={15} />
        </Button>
        <span className="figures whitespace-nowrap">
          {count === 0 ? 0 : start + 1}–{Math.min(count, start + room)} of {count}
        </span>
        <Button
          className="px-1!"
          aria-label="Bank after"
          title="Strips after these"
          keyFor="sound.bankAfter"
          unusable={start + room >= count ? 'These are the last strips.' : null}
          onClick={() => setSoundRoom({ first: start + room })}
        >
          <ChevronRight size={15} />
        </Button>
        <AddMenu />
        <span className="ml-2 truncate text-muted">1–9 choose a strip, arrows move its fader, M mutes, S solos. ? shows all keys.</span>
      </div>
    </div>
  );
}
