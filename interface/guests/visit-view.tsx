/** What a guest sees once they have joined: where they stand, the show, themself, what the crew has written, and what they can do. */
import { Hand, LogOut, MonitorUp } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { type OrderLine, type Sign } from '#core/guests/line';
import { causeOf } from '#core/schema/cause';
import { type GuestDevices } from '#engine/guests/driver';
import { type Visit } from '#engine/guests/visit';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { OwnPicture } from './own-picture';

const SIGNS: Readonly<Record<Sign, { words: string; more: string; look: string }>> = {
  'green-room': { words: 'Green room', more: 'Only the crew sees and hears you.', look: 'border-line text-text' },
  ready: { words: 'Ready', more: 'You may be put on air at any time.', look: 'border-straw text-straw' },
  next: { words: 'NEXT', more: 'You come on air with the next change.', look: 'border-next bg-next text-deep' },
  air: { words: 'YOU ARE ON AIR', more: 'Everybody sees and hears you.', look: 'border-air bg-air text-deep' },
};

/** The programme as it comes back, with one's own mix. */
function Back({ stream }: { stream: MediaStream | null }) {
  const video = useRef<HTMLVideoElement>(null);
  const [blocked, setBlocked] = useState(false);
  useEffect(() => {
    const element = video.current;
    if (!element) return;
    element.srcObject = stream;
    if (stream)
      element.play().then(
        () => setBlocked(false),
        () => setBlocked(true),
      );
  }, [stream]);
  return (
    <div className="relative">
      <video ref={video} className="aspect-video w-full bg-deep object-contain" autoPlay playsInline aria-label="The show" />
      {!stream && <p className="absolute inset-0 grid place-items-center text-muted">The show comes here in a moment.</p>}
      {blocked && (
        <Button
          look="straw"
          className="absolute inset-x-0 bottom-2 mx-auto"
          onClick={() => void video.current?.play().then(() => setBlocked(false))}
        >
          Hear the show
        </Button>
      )}
    </div>
  );
}

function Write({ visit }: { visit: Visit }) {
  const [text, setText] = useState('');
  const [sent, setSent] = useState('');
  const [comment, setComment] = useState(false);
  return (
    <form
      className="flex gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim() === '') return;
        visit.write(text, comment);
        setSent(text);
        setText('');
      }}
    >
      <input
        aria-label={comment ? 'Write a comment for the show' : 'Write to the crew'}
        placeholder={sent === '' ? (comment ? 'A comment for the show' : 'Write to the crew') : `Sent: ${sent}`}
        className="min-h-11 min-w-0 flex-1"
        maxLength={500}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Button
        className="min-h-11"
        pressed={comment}
        title="A comment may be shown to the audience; the crew alone reads everything else"
        onClick={() => setComment(!comment)}
      >
        For the show
      </Button>
      <Button type="submit" className="min-h-11">
        Send
      </Button>
    </form>
  );
}

/** What is on and what comes, as far as the crew shows it. */
function Order({ lines }: { lines: readonly OrderLine[] }) {
  return (
    <ol aria-label="Running order" className="border-y border-line py-1">
      {lines.map(({ name, at, on }, i) => (
        <li key={i} className={`flex gap-3 py-0.5 ${on ? 'font-semibold' : 'text-muted'}`}>
          <span className="figures w-14 shrink-0">{on ? 'now' : at}</span>
          <span className="min-w-0">{name}</span>
        </li>
      ))}
      {lines.length === 0 && <li className="text-muted">Nothing comes after this.</li>}
    </ol>
  );
}

export function VisitView({ visit, devices, stream }: { visit: Visit; devices: GuestDevices; stream: MediaStream }) {
  const { line, message, standing, back, connected, hand, sharing, show, shortOf } = useStore(visit.store);
  const [trouble, setTrouble] = useState('');
  if (line === 'ended')
    return (
      <p role="status" className="mx-auto max-w-xl p-6 text-lg">
        {message}
      </p>
    );
  const sign = SIGNS[standing?.sign ?? 'green-room'];
  const share = () => {
    if (sharing) return visit.share(null);
    devices.share().then(
      (shared) => void (shared && visit.share(shared)),
      (error: unknown) => setTrouble(causeOf(error)),
    );
    return undefined;
  };
  return (
    <div className="mx-auto flex max-w-3xl flex-col gap-3 p-3" data-sign={standing?.sign ?? 'none'} data-connected={connected}>
      <div role="status" className={`border-4 p-3 text-center ${sign.look}`}>
        <p className="text-3xl font-bold">{sign.words}</p>
        <p>{sign.more}</p>
      </div>
      {message !== '' && (
        <p role="alert" className="bg-caution p-2 font-semibold text-deep">
          {message}
        </p>
      )}
      {shortOf !== '' && (
        <p role="status" className="border border-caution p-2 text-caution">
          {shortOf === 'line'
            ? 'Your line is short: your picture is sent smaller. Other downloads and calls in the house take of it.'
            : 'Your machine is busy: your picture is sent smaller. Close what you do not need.'}
        </p>
      )}
      {standing?.spokenTo && <p className="border border-straw p-2 text-center text-straw">The crew speaks to you</p>}
      {standing?.note && <p className="bg-raised p-3 text-xl">{standing.note}</p>}
      {standing?.clock && (
        <p className="flex items-baseline justify-between gap-3">
          <span className="text-muted">{standing.clock.name}</span>
          <span className="figures text-4xl">{standing.clock.text}</span>
        </p>
      )}
      {standing?.order && <Order lines={standing.order} />}
      <Back stream={back} />
      <div className="grid grid-cols-2 gap-2 beside:grid-cols-4">
        <Button className="min-h-12" pressed={hand} onClick={() => visit.say({ hand: !hand })}>
          <Hand size={18} /> {hand ? 'Hand is up' : 'Raise hand'}
        </Button>
        <Button className="min-h-12" pressed={sharing} onClick={share}>
          <MonitorUp size={18} /> {sharing ? 'End sharing' : 'Share screen'}
        </Button>
        <OwnPicture stream={stream} className="h-20 w-full" />
        <HoldButton className="min-h-12" onHeld={() => visit.leave()} title="Hold to leave">
          <LogOut size={18} /> Leave
        </HoldButton>
      </div>
      {trouble !== '' && (
        <p role="alert" className="text-caution">
          {trouble}
        </p>
      )}
      <Write visit={visit} />
      <p className="text-muted">
        {show}
        {standing?.recorded && ' · is recorded now'}
        {standing?.streamed && ' · is streamed now'}
      </p>
    </div>
  );
}
