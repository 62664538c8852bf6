/** One guest in the room Guests: what they send, where they are, how their line does, and what one can do with them. */
import clsx from 'clsx';
import { Copy, Hand, Link2, MonitorUp, QrCode, Trash2, TriangleAlert, Volume2 } from 'lucide-react';
import { useState } from 'react';
import { create, useStore } from 'zustand';
import { guestNow, type GuestNow } from '#core/guests/air';
import { type Guest, GUEST_HEIGHTS } from '#core/guests/document';
import { type GuestFigures } from '#engine/client/show-client';
import { useShow, useSend, useShowClient } from '../client/show-client';
import { useTally } from '../client/use-tally';
import { Button } from '../parts/button';
import { Line } from '../parts/fields';
import { HoldButton } from '../parts/hold-button';
import { IconButton } from '../parts/icon-button';
import { Monitor } from '../parts/monitor';
import { TalkButton } from '../parts/talk-button';
import { MeterRow } from './meter-row';
import { useWayLink } from '../parts/way-link';
import { chooseGuest, useGuestsRoom } from './room-state';
import { endSimulated, joinSimulated, tellSimulated, useSimulated } from './simulated';

const STATES: Readonly<Record<GuestNow['state'], { words: string; look: string }>> = {
  away: { words: 'away', look: 'text-muted border-line' },
  waiting: { words: 'GREEN ROOM', look: 'text-straw border-straw' },
  admitted: { words: 'ADMITTED', look: 'text-text border-muted' },
};

function State({ now, sourceId }: { now: GuestNow; sourceId: string }) {
  const tally = useTally(sourceId);
  const onAir = now.state === 'admitted' && (tally.onAir || tally.inUse);
  const next = now.state === 'admitted' && (tally.next || tally.nextInUse);
  if (now.lost && now.state !== 'away') return <span className="bg-caution px-1.5 text-[13px] font-semibold text-deep">LINE DOWN</span>;
  if (onAir) return <span className="bg-air px-1.5 text-[13px] font-semibold text-deep">AIR</span>;
  if (next) return <span className="bg-next px-1.5 text-[13px] font-semibold text-deep">NEXT</span>;
  const { words, look } = STATES[now.state];
  return <span className={clsx('border px-1.5 text-[13px] font-semibold', look)}>{words}</span>;
}

/** What should be looked at before somebody is admitted; empty when all is well. */
function checksOf(now: GuestNow, figures: GuestFigures | undefined): string[] {
  if (now.state === 'away') return [];
  return [
    now.trouble,
    figures && figures.height === 0 ? 'no picture comes' : '',
    figures && figures.height > 0 && figures.frameRate > 0 && figures.frameRate < 8 ? `only ${figures.frameRate} frames a second` : '',
    figures && figures.lostShare > 0.03 ? `${Math.round(figures.lostShare * 100)} % of what they send is lost` : '',
    figures?.shortOf === 'line' ? 'their line is short: they send a smaller picture' : '',
    figures?.shortOf === 'machine' ? 'their machine is busy: they send a smaller picture' : '',
    figures?.echo ? 'what they hear comes back: ask for headphones' : now.hears === 'loudspeaker' ? 'hears by a loudspeaker: may echo' : '',
    figures?.hum ? `hums at ${figures.hum} Hz: a cable or power supply` : '',
    figures?.light === 'dark' ? 'the picture is dark: more light from the front' : '',
    figures?.light === 'bright' ? 'the picture is too bright: a window behind, or a lamp' : '',
    now.agreedAt === null ? 'has not agreed to be recorded' : '',
  ].filter((w) => w !== '');
}

/** What is known of a line, in a few figures. */
const lineWords = ({ width, height, frameRate, delayMs }: GuestFigures): string =>
  [height > 0 && `${width}×${height}`, `${frameRate}/s`, delayMs !== null && `${delayMs} ms`].filter(Boolean).join(' · ');

function Note({ guest, note }: { guest: Guest; note: string }) {
  const send = useSend();
  const [text, setText] = useState('');
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (send('guest.note', { guest: guest.id, text: text.trim() })) setText('');
      }}
    >
      <input
        data-note
        aria-label={`Write to ${guest.name}`}
        placeholder={note === '' ? 'Write to them' : `They read: ${note}`}
        className="min-w-0 flex-1"
        maxLength={300}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Button type="submit" title={note !== '' && text === '' ? 'Take away what they read' : 'They read it at once'}>
        {note !== '' && text === '' ? 'Clear' : 'Send'}
      </Button>
    </form>
  );
}

/** Whom the operator hears at this window, beside the mix: also somebody who waits. */
const useHeard = create<{ guest: string | null }>(() => ({ guest: null }));

function Hear({ guest }: { guest: Guest }) {
  const { guests } = useShowClient();
  const heard = useHeard((s) => s.guest === guest.id);
  const toggle = () => {
    const on = !heard && guests.hear(guest.id);
    if (!on) guests.hear(null);
    useHeard.setState({ guest: on ? guest.id : null });
  };
  return (
    <Button pressed={heard} title="Hear them alone, beside what you hear; nobody else does" onClick={toggle}>
      Hear
    </Button>
  );
}

function SimulatedTools({ guest }: { guest: Guest }) {
  const client = useShowClient();
  const own = useSimulated((s) => s.guests.find((g) => g.guestId === guest.id));
  if (client.panel) return null;
  if (!own)
    return (
      <Button
        look="quiet"
        title="Somebody drawn joins by this link, as a real guest does"
        onClick={() => void joinSimulated(client, guest.id)}
      >
        Simulate
      </Button>
    );
  const tell = (order: Parameters<typeof tellSimulated>[1]) => () => tellSimulated(guest.id, order);
  return (
    <div className="flex flex-wrap gap-1" role="group" aria-label={`Simulated ${guest.name}`}>
      <Button pressed={!own.silent} onClick={tell(own.silent ? 'speak' : 'silent')}>
        Speaks
      </Button>
      <Button pressed={own.shares} onClick={tell(own.shares ? 'unshare' : 'share')}>
        Shares
      </Button>
      <Button title="Their line breaks, and comes back by itself" onClick={tell('lose')}>
        Lose line
      </Button>
      <Button pressed={own.echoes} title="Their microphone takes up what they hear" onClick={tell(own.echoes ? 'quiet' : 'echo')}>
        Echoes
      </Button>
      <Button onClick={tell('hand')}>Hand</Button>
      <Button onClick={() => endSimulated(guest.id)}>End</Button>
    </div>
  );
}

export function GuestCard({ guest, place }: { guest: Guest; place: number }) {
  const client = useShowClient();
  const send = useSend();
  const chosen = useGuestsRoom((s) => s.guest === guest.id);
  const now = useShow(({ desk: { air } }) => guestNow(air, guest.id));
  const clocks = useShow(({ desk: { show } }) => show.graphics.clocks);
  const seat = useShow(({ desk: { show } }) => show.seats.find((s) => s.occupantId === guest.sourceId)?.name);
  const figures = useStore(client.guests.store, (s) => s.figures[guest.id]);
  const link = useWayLink('guest', guest.id, guest.name, 'It lets in whoever has it, one at a time.');
  const here = now.state !== 'away';
  const checks = checksOf(now, figures);
  return (
    <li
      data-guest={guest.id}
      data-state={now.state}
      className={clsx('flex flex-col gap-1.5 bg-panel p-2', chosen && 'outline-2 -outline-offset-2 outline-straw')}
      onPointerDown={() => chooseGuest(guest.id)}
      draggable
      onDragStart={(e) => e.dataTransfer.setData('text/bivoca-occupant', guest.sourceId)}
    >
      <div className="flex items-center gap-2">
        <span className="figures w-4 text-muted">{place <= 9 ? place : ''}</span>
        <div className="min-w-0 flex-1">
          <Line
            strong
            max={60}
            label={`Name of ${guest.name}`}
            value={guest.name}
            onSave={(name) => send('guest.edit', { guest: guest.id, name })}
          />
        </div>
        {now.hand && (
          <Button
            look="straw"
            title="They want to say something; press to take the hand down"
            onClick={() => send('guest.hand', { guest: guest.id, hand: false })}
          >
            <Hand size={14} /> hand
          </Button>
        )}
        <State now={now} sourceId={guest.sourceId} />
      </div>
      <div className="relative">
        <Monitor
          picture={{ kind: 'guest', id: guest.sourceId }}
          label={`What ${guest.name} sends`}
          className="aspect-video w-full bg-deep"
        />
        {now.shares && (
          <span className="absolute top-1 left-1 flex items-center gap-1 bg-deep/80 px-1 text-[13px]">
            <MonitorUp size={13} /> shares a screen
          </span>
        )}
        {now.hears === 'loudspeaker' && (
          <span className="absolute top-1 right-1 bg-deep/80 p-0.5" title="Hears by a loudspeaker">
            <Volume2 size={14} />
          </span>
        )}
      </div>
      <MeterRow id={guest.sourceId} label={guest.name} />
      {here && now.said !== '' && now.said !== guest.name && (
        <p className="flex items-center gap-2 text-[13px]">
          <span className="min-w-0 flex-1 truncate">
            calls themself <b>{now.said}</b>
          </span>
          <Button onClick={() => send('guest.edit', { guest: guest.id, name: now.said })}>Use</Button>
        </p>
      )}
      <div className="min-w-0">
        <Line
          empty
          max={80}
          label={`Title of ${guest.name}`}
          value={guest.title}
          onSave={(title) => send('guest.edit', { guest: guest.id, title })}
        />
      </div>
      <p
        className="figures h-5 truncate text-[13px] text-muted"
        title={[seat && `Sits at ${seat}`, figures && `${lineWords(figures)} · ${figures.kilobits} kbit/s come`].filter(Boolean).join('. ')}
      >
        {[seat, figures && lineWords(figures)].filter(Boolean).join(' · ')}
      </p>
      {checks.map((words) => (
        <p key={words} className="flex items-center gap-1 text-[13px] text-caution">
          <TriangleAlert size={13} className="shrink-0" /> {words}
        </p>
      ))}
      <div className="flex flex-wrap gap-1">
        {now.state === 'admitted' ? (
          <HoldButton
            title="Hold: neither seen nor heard in the show any more"
            keyFor="guests.hold"
            onHeld={() => send('guest.hold', { guest: guest.id })}
          >
            Green room
          </HoldButton>
        ) : (
          <Button
            look={here ? 'straw' : 'plain'}
            unusable={here ? null : 'They are not here yet.'}
            keyFor="guests.admit"
            onClick={() => send('guest.admit', { guest: guest.id })}
          >
            Admit
          </Button>
        )}
        <TalkButton
          ids={guest.listenerId === null ? [] : [guest.listenerId]}
          name={guest.name}
          label="Talk"
          title="Hold to talk to them alone"
          nobody="They have no mix of their own to be spoken into."
          keyFor="guests.talk"
        />
        {here && !client.panel && <Hear guest={guest} />}
        {here && (
          <HoldButton look="air" title="Hold: ends their connection" onHeld={() => send('guest.showOut', { guest: guest.id })}>
            Show out
          </HoldButton>
        )}
      </div>
      <label className="flex items-center gap-2 text-[13px] text-muted">
        Picture wanted
        <select
          aria-label={`Height of the picture of ${guest.name}`}
          className="min-w-0 flex-1"
          value={guest.height}
          onChange={(e) => send('guest.edit', { guest: guest.id, height: Number(e.target.value) })}
        >
          {[...new Set([...GUEST_HEIGHTS, guest.height])].map((h) => (
            <option key={h} value={h}>
              {h} lines
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2 text-[13px] text-muted">
        Clock they see
        <select
          aria-label={`Clock that ${guest.name} sees`}
          className="min-w-0 flex-1"
          value={now.clockId ?? ''}
          onChange={(e) => send('guest.clock', { guest: guest.id, clock: e.target.value || null })}
        >
          <option value="">none</option>
          {clocks.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2 text-[13px]">
        <input type="checkbox" checked={now.seesOrder} onChange={(e) => send('guest.order', { guest: guest.id, on: e.target.checked })} />
        sees the running order
      </label>
      <label className="flex items-center gap-2 text-[13px]">
        <input type="checkbox" checked={guest.counts} onChange={(e) => send('guest.edit', { guest: guest.id, counts: e.target.checked })} />
        counts in the gathered views
      </label>
      {here && <Note guest={guest} note={now.note} />}
      <div className="flex flex-wrap items-center gap-1">
        {link.row ? (
          <>
            <Button onClick={() => void link.copy()} title="Copy the link">
              <Copy size={14} /> Link
            </Button>
            <Button onClick={link.showCode} title="The link as a code, to be photographed">
              <QrCode size={14} /> Code
            </Button>
            <HoldButton look="air" title="Hold: nobody comes in by it any more" onHeld={() => void client.ways.withdraw('guest', guest.id)}>
              Withdraw
            </HoldButton>
          </>
        ) : (
          !client.panel && (
            <Button onClick={() => void link.make()} title="A link by which they come in">
              <Link2 size={14} /> Make link
            </Button>
          )
        )}
        <SimulatedTools guest={guest} />
        <span className="flex-1" />
        <IconButton label={`Remove ${guest.name}`} onClick={() => send('guest.remove', { guest: guest.id })}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      {link.dialog}
    </li>
  );
}
